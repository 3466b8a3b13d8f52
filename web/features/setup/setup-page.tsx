import { yupResolver } from '@hookform/resolvers/yup';
import { FormProvider, useForm, type FieldErrors, type Resolver } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { newSensorSchema, type NewSensor } from '@frustum/contract';
import { problemOf, useAddSensorMutation, useMarginsQuery, useShelfQuery } from '../../app/api.ts';
import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Notice } from '../../ui/notice.tsx';
import { ChannelFields } from './channel-fields.tsx';
import { channelOf, USUAL_CHANNEL, type ChannelForm } from './channel-form.ts';
import { Text } from './text-field.tsx';

const POINT_SETS = [
  { ids: ['technical-7.00', 'technical-4.01'], text: '7.00 and 4.01' },
  { ids: ['technical-7.00', 'technical-10.01'], text: '7.00 and 10.01' },
  { ids: ['technical-7.00', 'technical-10.01', 'technical-4.01'], text: '7.00, 10.01 and 4.01' },
] as const;

/** The form's own shape: flat, all text; the schema makes a sensor of it. */
interface Form {
  siteName: string;
  loopName: string;
  place: string;
  workingPh: string;
  workingC: string;
  tolerancePh: string;
  intervalDays: string;
  controls: string;
  points: string;
  sensorName: string;
  serial: string;
  fittedOn: string;
  channel: ChannelForm;
}

function sensorOf(form: Form): unknown {
  const { points, channel, ...rest } = form;
  const number = (text: string) => (text.trim() === '' ? undefined : Number(text.replace(',', '.')));
  return {
    ...rest,
    sensorName: rest.sensorName.trim() || `${rest.loopName.trim()} probe`,
    workingPh: number(rest.workingPh),
    workingC: number(rest.workingC),
    tolerancePh: number(rest.tolerancePh),
    intervalDays: number(rest.intervalDays),
    pointSet: points.split(' '),
    channel: channelOf(channel),
  };
}

/** Checks the form by the contract's own schema, so that screen and server cannot disagree. */
const check = yupResolver(newSensorSchema) as unknown as Resolver<NewSensor>;
const resolver: Resolver<Form> = async (form, context, options) => {
  const result = await check(sensorOf(form) as NewSensor, context, options as unknown as Parameters<typeof check>[2]);
  const { pointSet, ...errors } = result.errors as FieldErrors<NewSensor>;
  if (!Object.keys(result.errors).length) return { values: form, errors: {} };
  return { values: {}, errors: { ...errors, ...(pointSet ? { points: pointSet } : {}) } as FieldErrors<Form> };
};

export function Page() {
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Set-up</h1>
      <AddSensor />
      <Preferences />
    </main>
  );
}

/** A site, a loop and a pH sensor in under a minute: what is usual is filled in already. */
function AddSensor() {
  const navigate = useNavigate();
  const { data } = useMarginsQuery();
  const { data: shelf } = useShelfQuery();
  const [add, { isLoading, error }] = useAddSensorMutation();
  const sites = [...new Set((data?.rows ?? []).map((r) => r.siteName))];
  const form = useForm<Form>({
    resolver,
    defaultValues: {
      siteName: '',
      loopName: '',
      place: '',
      workingPh: '',
      workingC: '25',
      tolerancePh: '0.1',
      intervalDays: '30',
      controls: '',
      points: POINT_SETS[0].ids.join(' '),
      sensorName: '',
      serial: '',
      fittedOn: new Date().toISOString().slice(0, 10),
      channel: USUAL_CHANNEL,
    },
  });
  const submit = form.handleSubmit(async (filled) => {
    const answer = await add(newSensorSchema.cast(sensorOf(filled)));
    if (answer.data) void navigate(`/sensors/${answer.data.sensorId}`);
  });
  return (
    <section aria-label="Add a pH sensor" className="border-t border-base-300 mt-4 pt-4">
      <h2>Add a pH sensor</h2>
      <FormProvider {...form}>
        <form
          noValidate
          onSubmit={(e) => void submit(e)}
          className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 mt-3"
        >
          <Text<Form> name="siteName" label="Site" hint="a tank room, a grow room, a plant" list="known-sites" />
          <datalist id="known-sites">
            {sites.map((s) => (
              <option key={s} value={s} />
            ))}
          </datalist>
          <Text<Form> name="loopName" label="Loop" hint="what is measured: Reservoir 1 pH" />
          <Text<Form> name="place" label="Place" hint="optional" />
          <Text<Form> name="workingPh" label="Works at, pH" hint="5.8, or 8.1" decimal />
          <Text<Form> name="tolerancePh" label="Tolerance, ± pH" decimal />
          <Text<Form> name="workingC" label="Water temperature, °C" decimal />
          <Text<Form> name="intervalDays" label="Recalibrate every … days" decimal />
          <Text<Form> name="controls" label="It controls" hint="acid dosing; empty for nothing" />
          <div>
            <label htmlFor="points" className="text-sm sub">
              Usual standards
            </label>
            <select id="points" className="select h-12 w-full text-base" {...form.register('points')} disabled={!shelf}>
              {POINT_SETS.map((p) => (
                <option key={p.text} value={p.ids.join(' ')}>
                  {p.text}
                </option>
              ))}
            </select>
          </div>
          <Text<Form> name="sensorName" label="Sensor" hint="optional; named after the loop" />
          <Text<Form> name="serial" label="Serial" hint="optional" />
          <Text<Form> name="fittedOn" label="Fitted on" type="date" />
          <ChannelFields />
          {error && (
            <div className="sm:col-span-2 lg:col-span-3">
              <Notice kind="trouble" role="alert">
                {problemOf(error).detail}
              </Notice>
            </div>
          )}
          <button className="btn btn-primary h-14 text-lg sm:col-span-2 lg:col-span-1" disabled={isLoading}>
            {isLoading ? 'Adding …' : 'Add the sensor'}
          </button>
        </form>
      </FormProvider>
    </section>
  );
}

function Preferences() {
  const settings = useAppSelector((s) => s.settings);
  const dispatch = useAppDispatch();
  const box = (key: 'sound' | 'singleKeys', text: string) => (
    <label className="flex items-center gap-3 min-h-12 cursor-pointer">
      <input
        type="checkbox"
        className="toggle"
        checked={settings[key]}
        onChange={(e) => dispatch(preferred({ [key]: e.target.checked }))}
      />
      {text}
    </label>
  );
  return (
    <section aria-label="This device" className="border-t border-base-300 mt-8 pt-4">
      <h2>On this device</h2>
      {box('sound', 'Sound and vibration when a reading is ready')}
      {box('singleKeys', 'Single keys (? shows them)')}
      <label className="flex items-center gap-3 min-h-12 cursor-pointer">
        <input
          type="checkbox"
          className="toggle"
          checked={settings.theme === 'night'}
          onChange={(e) => dispatch(preferred({ theme: e.target.checked ? 'night' : 'daylight' }))}
        />
        Night: for dark rooms
      </label>
    </section>
  );
}

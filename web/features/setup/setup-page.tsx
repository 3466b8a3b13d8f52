import { yupResolver } from '@hookform/resolvers/yup';
import { useForm, type FieldErrors, type Resolver, type UseFormRegister } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { newSensorSchema, type NewSensor } from '@frustum/contract';
import { problemOf, useAddSensorMutation, useMarginsQuery, useShelfQuery } from '../../app/api.ts';
import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Notice } from '../../ui/notice.tsx';

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
  kind: 'hand' | 'modbus';
  host: string;
  port: string;
  unitId: string;
  baseAddress: string;
}

function sensorOf(form: Form): unknown {
  const { points, kind, host, port, unitId, baseAddress, ...rest } = form;
  const number = (text: string) => (text.trim() === '' ? undefined : Number(text.replace(',', '.')));
  return {
    ...rest,
    sensorName: rest.sensorName.trim() || `${rest.loopName.trim()} probe`,
    workingPh: number(rest.workingPh),
    workingC: number(rest.workingC),
    tolerancePh: number(rest.tolerancePh),
    intervalDays: number(rest.intervalDays),
    pointSet: points.split(' '),
    channel:
      kind === 'hand'
        ? { kind }
        : { kind, host, port: number(port), unitId: number(unitId), baseAddress: number(baseAddress) },
  };
}

/** Checks the form by the contract's own schema, so that screen and server cannot disagree. */
const check = yupResolver(newSensorSchema) as unknown as Resolver<NewSensor>;
const resolver: Resolver<Form> = async (form, context, options) => {
  const result = await check(sensorOf(form) as NewSensor, context, options as unknown as Parameters<typeof check>[2]);
  const { channel, pointSet, ...errors } = result.errors as FieldErrors<NewSensor> & {
    channel?: Record<string, unknown>;
  };
  if (!Object.keys(result.errors).length) return { values: form, errors: {} };
  return {
    values: {},
    errors: { ...errors, ...(channel ?? {}), ...(pointSet ? { points: pointSet } : {}) } as FieldErrors<Form>,
  };
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
  const { register, handleSubmit, watch, formState } = useForm<Form>({
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
      kind: 'hand',
      host: '',
      port: '502',
      unitId: '1',
      baseAddress: '0',
    },
  });
  const { errors } = formState;
  const submit = handleSubmit(async (form) => {
    const answer = await add(newSensorSchema.cast(sensorOf(form)));
    if (answer.data) void navigate(`/sensors/${answer.data.sensorId}`);
  });
  const field = { register, errors };
  return (
    <section aria-label="Add a pH sensor" className="border-t border-base-300 mt-4 pt-4">
      <h2>Add a pH sensor</h2>
      <form
        noValidate
        onSubmit={(e) => void submit(e)}
        className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 mt-3"
      >
        <Text {...field} name="siteName" label="Site" hint="a tank room, a grow room, a plant" list="known-sites" />
        <datalist id="known-sites">
          {sites.map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
        <Text {...field} name="loopName" label="Loop" hint="what is measured: Reservoir 1 pH" />
        <Text {...field} name="place" label="Place" hint="optional" />
        <Text {...field} name="workingPh" label="Works at, pH" hint="5.8, or 8.1" decimal />
        <Text {...field} name="tolerancePh" label="Tolerance, ± pH" decimal />
        <Text {...field} name="workingC" label="Water temperature, °C" decimal />
        <Text {...field} name="intervalDays" label="Recalibrate every … days" decimal />
        <Text {...field} name="controls" label="It controls" hint="acid dosing; empty for nothing" />
        <div>
          <label htmlFor="points" className="text-sm sub">
            Usual standards
          </label>
          <select id="points" className="select h-12 w-full text-base" {...register('points')} disabled={!shelf}>
            {POINT_SETS.map((p) => (
              <option key={p.text} value={p.ids.join(' ')}>
                {p.text}
              </option>
            ))}
          </select>
        </div>
        <Text {...field} name="sensorName" label="Sensor" hint="optional; named after the loop" />
        <Text {...field} name="serial" label="Serial" hint="optional" />
        <Text {...field} name="fittedOn" label="Fitted on" type="date" />
        <fieldset className="sm:col-span-2 lg:col-span-3">
          <legend className="text-sm sub">How its reading reaches Frustum</legend>
          <label className="inline-flex items-center gap-2 min-h-12 mr-6">
            <input type="radio" className="radio" value="hand" {...register('kind')} /> typed by hand, or a recorded
            trace
          </label>
          <label className="inline-flex items-center gap-2 min-h-12">
            <input type="radio" className="radio" value="modbus" {...register('kind')} /> live over Modbus TCP
          </label>
        </fieldset>
        {watch('kind') === 'modbus' && (
          <>
            <Text {...field} name="host" label="Host" hint="192.168.1.20" />
            <Text {...field} name="port" label="Port" decimal />
            <Text {...field} name="unitId" label="Unit id" decimal />
            <Text {...field} name="baseAddress" label="First register" decimal />
            <p className="sub text-sm sm:col-span-2 self-end">
              Input registers: +0 mV × 10, +1 °C × 100, +2 and +3 clock in 0.1 s, +4 status (0 = measuring). Holding: +0
              zero × 10, +1 slope × 10 000.
            </p>
          </>
        )}
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
    </section>
  );
}

interface TextProps {
  register: UseFormRegister<Form>;
  errors: FieldErrors<Form>;
  name: keyof Form;
  label: string;
  hint?: string;
  decimal?: boolean;
  type?: string;
  list?: string;
}

function Text({ register, errors, name, label, hint, decimal, type = 'text', list }: TextProps) {
  const message = errors[name]?.message;
  return (
    <div>
      <label htmlFor={name} className="text-sm sub">
        {label}
      </label>
      <input
        id={name}
        type={type}
        list={list}
        inputMode={decimal ? 'decimal' : undefined}
        autoComplete="off"
        placeholder={hint}
        className={`input h-12 w-full text-base ${decimal ? 'fig' : ''} ${message ? 'input-error' : ''}`}
        aria-invalid={message ? true : undefined}
        aria-describedby={message ? `${name}-trouble` : undefined}
        {...register(name)}
      />
      {message && (
        <p id={`${name}-trouble`} className="text-error text-sm mt-1">
          {String(message)}
        </p>
      )}
    </div>
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

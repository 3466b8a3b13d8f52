import { FormProvider, useForm } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { newSensorSchema } from '@frustum/contract';
import { useAddSensorMutation, useMarginsQuery, useShelfQuery } from '../../app/api.ts';
import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Notice } from '../../ui/notice.tsx';
import { ChannelFields } from '../../wires/channel-fields.tsx';
import { FamilyFields, LimitFields, SurroundingFields } from './family-fields.tsx';
import { resolver, sensorOf, USUAL_SENSOR, type SensorForm } from './sensor-form.ts';
import { DUE_BY_WORDS } from '../../format/due-by.ts';
import { Pick, Text } from '../../ui/text-field.tsx';
import { problemOf } from '../../format/problem.ts';

export function Page() {
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Set-up</h1>
      <p className="sub mt-1">
        <Link className="underline" to="/set-up/procedures">
          Procedures of your own
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/backups">
          Snapshots and backups
        </Link>
      </p>
      <AddSensor />
      <Preferences />
    </main>
  );
}

/** A site, a loop and a sensor in under a minute: what is usual is filled in already. */
function AddSensor() {
  const navigate = useNavigate();
  const { data } = useMarginsQuery();
  const { data: shelf } = useShelfQuery();
  const [add, { isLoading, error }] = useAddSensorMutation();
  const sites = [...new Set((data?.rows ?? []).map((r) => r.siteName))];
  const form = useForm<SensorForm>({
    resolver,
    defaultValues: { ...USUAL_SENSOR, fittedOn: new Date().toISOString().slice(0, 10) },
  });
  const submit = form.handleSubmit(async (filled) => {
    const answer = await add(newSensorSchema.cast(sensorOf(filled)));
    if (answer.data) void navigate(`/sensors/${answer.data.sensorId}`);
  });
  return (
    <section aria-label="Add a sensor" className="border-t border-base-300 mt-4 pt-4">
      <h2>Add a sensor</h2>
      <FormProvider {...form}>
        <form
          noValidate
          onSubmit={(e) => void submit(e)}
          className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 mt-3"
        >
          <Text<SensorForm> name="siteName" label="Site" hint="a tank room, a grow room, a plant" list="known-sites" />
          <datalist id="known-sites">
            {sites.map((s) => (
              <option key={s} value={s} />
            ))}
          </datalist>
          <Text<SensorForm> name="loopName" label="Loop" hint="what is measured: Reservoir 1 pH" />
          <Text<SensorForm> name="place" label="Place" hint="optional" />
          <FamilyFields standards={shelf?.standards ?? []} rows={data?.rows ?? []} />
          <Text<SensorForm> name="workingC" label="Water temperature, °C" decimal />
          <Text<SensorForm> name="intervalDays" label="Recalibrate every … days" decimal />
          <Pick<SensorForm> name="dueBy" label="The next run is due" options={DUE_BY_WORDS} />
          <ControlFields />
          <Text<SensorForm> name="sensorName" label="Sensor" hint="optional; named after the loop" />
          <Text<SensorForm> name="serial" label="Serial" hint="optional" />
          <Text<SensorForm> name="fittedOn" label="Fitted on" type="date" />
          <SurroundingFields />
          <LimitFields />
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

/** What acts on the value. */
const ControlFields = () => (
  <>
    <Text<SensorForm> name="controls" label="It controls" hint="acid dosing; empty for nothing" />
    <Pick<SensorForm>
      name="controlAction"
      label="What that does to the value"
      options={[
        ['', 'not said'],
        ['lowers', 'lowers it'],
        ['raises', 'raises it'],
      ]}
    />
    <Text<SensorForm> name="holdMinutes" label="It may be on hold for … min" hint="then somebody is told" decimal />
  </>
);

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

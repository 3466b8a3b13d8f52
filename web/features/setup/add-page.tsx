import { useState } from 'react';
import { FormProvider, useForm, useFormContext } from 'react-hook-form';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { newSensorSchema, type LoopRow, type SetUpLoop, type SetUpSite } from '@frustum/contract';
import { useAddSensorMutation, useMarginsQuery, useSetUpQuery, useShelfQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { DUE_BY_WORDS } from '../../format/due-by.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { Pick, Text } from '../../ui/text-field.tsx';
import { ChannelFields } from '../../wires/channel-fields.tsx';
import { WIDE } from '../../wires/wire-form.ts';
import { ControlFields } from './control-fields.tsx';
import { FamilyFields, MoreFamilyFields } from './family-fields.tsx';
import { LimitFields, LinkFields, SurroundingFields } from './part-fields.tsx';
import { fieldDay } from '../../format/dates.ts';
import { likeOf, resolver, sensorOf, USUAL_SENSOR, type SensorForm } from './sensor-form.ts';

export function Page() {
  const [asked] = useSearchParams();
  const { data, error } = useSetUpQuery();
  if (!data) return <NotYet what="Reading the set-up" error={error} />;
  const site = data.sites.find((s) => s.loops.some((l) => l.loopId === asked.get('like')));
  const like = site?.loops.find((l) => l.loopId === asked.get('like'));
  const first = site ?? data.sites.find((s) => s.archivedAt === null);
  return <AddLoop key={like?.loopId ?? ''} siteName={first?.name ?? ''} like={like ?? null} sites={data.sites} />;
}

/** A loop in under a minute: its name, what it measures and where it works; the rest is as usual, or as another has it. */
function AddLoop({ siteName, like, sites }: { siteName: string; like: SetUpLoop | null; sites: readonly SetUpSite[] }) {
  const navigate = useNavigate();
  const { data } = useMarginsQuery();
  const { data: shelf } = useShelfQuery();
  const [add, { isLoading, error }] = useAddSensorMutation();
  const form = useForm<SensorForm>({
    resolver,
    defaultValues: {
      ...USUAL_SENSOR,
      siteName,
      fittedOn: fieldDay(Date.now()),
      ...(like ? likeOf(like) : {}),
    },
  });
  const submit = form.handleSubmit(async (filled) => {
    const answer = await add(newSensorSchema.cast(sensorOf(filled)));
    if (answer.data) void navigate(`/sensors/${answer.data.sensorId}`);
  });
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>{like ? `Another like ${like.name}` : 'Add a loop'}</h1>
      <FormProvider {...form}>
        <form
          noValidate
          aria-label="Add a loop"
          onSubmit={(e) => void submit(e)}
          className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 mt-3"
        >
          <Where sites={sites} />
          <FamilyFields />
          <Rest standards={shelf?.standards ?? []} rows={data?.rows ?? []} sites={sites} />
          <ChannelFields />
          {error && (
            <div className={WIDE}>
              <Notice kind="trouble" role="alert">
                {problemOf(error).detail}
              </Notice>
            </div>
          )}
          <button className="btn btn-primary h-14 text-lg" disabled={isLoading}>
            {isLoading ? 'Adding …' : 'Add the sensor'}
          </button>
          <Link className="btn btn-ghost h-14 text-lg font-normal" to="/set-up">
            Not now
          </Link>
        </form>
      </FormProvider>
    </main>
  );
}

const loopsOf = (sites: readonly SetUpSite[], name: string) => sites.find((s) => s.name === name.trim())?.loops ?? [];

/** Site and name; a name that is taken is said while it is typed. */
function Where({ sites }: { sites: readonly SetUpSite[] }) {
  const [site, loop] = useFormContext<SensorForm>().watch(['siteName', 'loopName']);
  const taken = loopsOf(sites, site).some((l) => l.name === loop.trim());
  return (
    <>
      <Text<SensorForm> name="siteName" label="Site" hint="a tank room, a grow room, a plant" list="known-sites" />
      <datalist id="known-sites">
        {sites.map((s) => (
          <option key={s.siteId} value={s.name} />
        ))}
      </datalist>
      <div>
        <Text<SensorForm> name="loopName" label="Loop" hint="what is measured: Reservoir 1 pH" />
        {taken && (
          <p role="status" className="text-error text-sm mt-1">
            {site.trim()} has a loop of that name already. Type another name.
          </p>
        )}
      </div>
    </>
  );
}

/** What is usual, folded away; open where something in it is wrong. */
function Rest({
  standards,
  rows,
  sites,
}: {
  standards: Parameters<typeof MoreFamilyFields>[0]['standards'];
  rows: readonly LoopRow[];
  sites: readonly SetUpSite[];
}) {
  const { formState, watch } = useFormContext<SensorForm>();
  const { errors } = formState;
  const [open, setOpen] = useState(false);
  const { siteName: _, loopName: __, workingValue: ___, channel: ____, ...inside } = errors;
  return (
    <details
      className={WIDE}
      open={open || Object.keys(inside).length > 0}
      onToggle={(e) => setOpen(e.currentTarget.open)}
    >
      <summary className="cursor-pointer py-3 sub">Everything else, as usual for what it measures</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <MoreFamilyFields standards={standards} rows={rows} />
        <Text<SensorForm> name="place" label="Place" hint="optional" />
        <Text<SensorForm> name="workingC" label="Water temperature, °C" decimal />
        <Text<SensorForm> name="intervalDays" label="Recalibrate every … days" decimal />
        <Pick<SensorForm> name="dueBy" label="The next run is due" options={DUE_BY_WORDS} />
        <ControlFields />
        <Text<SensorForm> name="sensorName" label="Sensor" hint="optional; named after the loop" />
        <Text<SensorForm> name="serial" label="Serial" hint="optional" />
        <Text<SensorForm> name="fittedOn" label="Fitted on" type="date" />
        <LinkFields others={loopsOf(sites, watch('siteName')).filter((l) => l.archivedAt === null)} self={null} />
        <SurroundingFields />
        <LimitFields />
      </div>
    </details>
  );
}

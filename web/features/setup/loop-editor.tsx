import { useDeferredValue, useState } from 'react';
import { FormProvider, useForm, useFormContext } from 'react-hook-form';
import { Link } from 'react-router';
import { familyOf, settingsThatMatter, usualSets, type SettingField } from '@frustum/core';
import { alikeIn, type ChangeLoop, type SetUpLoop } from '@frustum/contract';
import {
  useChangeAlikeMutation,
  useChangeFittedSensorMutation,
  useChangeLoopMutation,
  useMarginsQuery,
  useShelfQuery,
} from '../../app/api.ts';
import { DUE_BY_WORDS } from '../../format/due-by.ts';
import { inFamily, upper } from '../../format/in-family.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { Pick, Text, Tick } from '../../ui/text-field.tsx';
import { WIDE } from '../../wires/wire-form.ts';
import { ChangeHistory } from './change-history.tsx';
import { Consequences } from './consequences.tsx';
import { ControlFields } from './control-fields.tsx';
import { LimitFields, LinkFields, SurroundingFields } from './part-fields.tsx';
import { ConditionFields, SettingFields } from './setting-fields.tsx';
import { askedBy, settingsOf } from './settings-typed.ts';
import { ScaleFields, useScales } from './scale-fields.tsx';
import { formOfLoop, loopChange, resolverFor, sensorChange, type LoopForm } from './loop-form.ts';

interface LoopEditorProps {
  readonly loop: SetUpLoop;
  /** the other loops of its site, also those that are archived */
  readonly others: readonly SetUpLoop[];
  readonly siteName: string;
  readonly openRunId: string | null;
  readonly onDone: () => void;
}

/** Everything of a loop that can become another, with what that would mean, before it is kept. */
export function LoopEditor({ loop, others, siteName, openRunId, onDone }: LoopEditorProps) {
  const form = useForm<LoopForm>({ resolver: resolverFor(loop), values: formOfLoop(loop) });
  const { keep, undo, before, error, isLoading } = useLoopChanges(loop, others);
  const typed = useDeferredValue(form.watch());
  const submit = form.handleSubmit((filled) => keep(filled));
  return (
    <FormProvider {...form}>
      <form
        noValidate
        aria-label={`Change ${loop.name}`}
        onSubmit={(e) => void submit(e)}
        className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 border-l-[3px] border-primary pl-4 py-2 mt-2"
      >
        {/* A field of the form, so that it is still there once the kept figures come back. */}
        <input type="hidden" {...form.register('family')} />
        <Figures names={others.map((l) => l.name)} />
        <div className={WIDE}>
          <OtherFigures loop={loop} others={others} typed={typed} />
        </div>
        <UsualPoints loop={loop} />
        <ControlFields />
        {loop.sensor && <SensorFields />}
        <Knows loop={loop} siteName={siteName} />
        <LinkFields others={others.filter((l) => l.archivedAt === null)} self={loop} />
        <SurroundingFields />
        <LimitFields />
        <Text<LoopForm> name="why" label="Why" hint="kept with the change" />
        {error !== undefined && (
          <div className={WIDE}>
            <Notice kind="trouble" role="alert">
              {problemOf(error).detail}
            </Notice>
          </div>
        )}
        {before && <ChangeKept isLoading={isLoading} undo={() => void undo()} />}
        <div className={`flex flex-wrap gap-2 ${WIDE}`}>
          <button className="btn btn-primary h-12" disabled={isLoading}>
            Keep the change
          </button>
          <button type="button" className="btn btn-ghost h-12 font-normal" onClick={onDone}>
            Close
          </button>
          <OtherWays loop={loop} openRunId={openRunId} why={form.watch('why')} />
        </div>
        <div className={WIDE}>
          <ChangeHistory of={loop.loopId} figures={inFamily(loop)} />
          {loop.sensor && <ChangeHistory of={loop.sensor.sensorId} />}
        </div>
      </form>
    </FormProvider>
  );
}

const ChangeKept = ({ isLoading, undo }: { isLoading: boolean; undo: () => void }) => (
  <div className={WIDE} role="status">
    <Notice kind="plain">
      Kept. Past verdicts keep the figures that they were made with.{' '}
      <button type="button" className="btn btn-sm h-11 ml-2" disabled={isLoading} onClick={undo}>
        Undo
      </button>
    </Notice>
  </div>
);

/** Keeps what became another, and takes it back. */
function useLoopChanges(loop: SetUpLoop, others: readonly SetUpLoop[]) {
  const [changeAlike, ofAlike] = useChangeAlikeMutation();
  const [fellowsBefore, setFellowsBefore] = useState<readonly SetUpLoop[]>([]);
  const [changeLoop, ofLoop] = useChangeLoopMutation();
  const [changeSensor, ofSensor] = useChangeFittedSensorMutation();
  const [before, setBefore] = useState<LoopForm | null>(null);
  const keep = async (form: LoopForm, isUndo = false) => {
    const was = formOfLoop(loop);
    const to = loopChange(form, loop);
    const sensorTo = sensorChange(form, loop);
    const why = isUndo ? 'undone' : form.why;
    const alike = alikeIn(to);
    const fellows = form.forAll && !isUndo && Object.keys(alike).length ? fellowsOf(loop, others) : [];
    // What goes for all of them first, with this loop among them: all of them, or none.
    if (fellows.length) {
      const loops = [loop, ...fellows].map(({ loopId, version }) => ({ loopId, version }));
      const answer = await changeAlike({ loops, to: alike, why });
      if (answer.error) return;
    }
    const own = fellows.length ? Object.fromEntries(Object.entries(to).filter(([key]) => !(key in alike))) : to;
    if (Object.keys(own).length) {
      const version = loop.version + (fellows.length ? 1 : 0);
      const answer = await changeLoop({ loopId: loop.loopId, body: { version, to: own, why } });
      if (!answer.data) return;
    }
    if (loop.sensor && Object.keys(sensorTo).length) {
      const { sensorId, version } = loop.sensor;
      const answer = await changeSensor({ sensorId, body: { version, to: sensorTo, why } });
      if (!answer.data) return;
    }
    if (isUndo) await fellowsBack(to, why);
    setFellowsBefore(fellows);
    if (Object.keys({ ...to, ...sensorTo }).length) setBefore(isUndo ? null : was);
  };
  // Each of them to what it had itself.
  const fellowsBack = async (to: ChangeLoop['to'], why: string) => {
    for (const was of fellowsBefore) {
      const version = others.find((l) => l.loopId === was.loopId)?.version ?? was.version;
      const own = Object.fromEntries(Object.keys(alikeIn(to)).map((key) => [key, was[key as keyof SetUpLoop]]));
      await changeAlike({ loops: [{ loopId: was.loopId, version }], to: own, why });
    }
  };
  return {
    keep,
    undo: () => before && keep(before, true),
    before,
    error: ofLoop.error ?? ofSensor.error ?? ofAlike.error,
    isLoading: ofLoop.isLoading || ofSensor.isLoading || ofAlike.isLoading,
  };
}

/** Others of its kind at its site: a figure may go for all of them. */
const fellowsOf = (loop: SetUpLoop, others: readonly SetUpLoop[]) =>
  others.filter((l) => l.family === loop.family && l.archivedAt === null);

/** What the typed figures would mean, for this loop or for all of its kind. */
function OtherFigures({ loop, others, typed }: { loop: SetUpLoop; others: readonly SetUpLoop[]; typed: LoopForm }) {
  const fellows = fellowsOf(loop, others);
  const to = loopChange(typed, loop);
  return (
    <>
      {fellows.length > 0 && Object.keys(alikeIn(to)).length > 0 && (
        <Tick<LoopForm>
          name="forAll"
          label={`The same for ${fellows.length === 1 ? fellows[0]!.name : `the ${fellows.length} others of ${familyOf(loop.family).name} here`}`}
        />
      )}
      <Consequences loop={loop} to={to} also={typed.forAll ? fellows : []} />
    </>
  );
}

/** What it is, and what its margin and its dates follow from. */
function Figures({ names }: { names: readonly string[] }) {
  const { unit } = useScales();
  const name = useFormContext<LoopForm>().watch('name').trim();
  return (
    <>
      <div>
        <Text<LoopForm> name="name" label="Loop" />
        {names.includes(name) && (
          <p role="status" className="text-error text-sm mt-1">
            There is a loop of that name already, maybe archived. Type another name.
          </p>
        )}
      </div>
      <Text<LoopForm> name="place" label="Place" hint="optional" />
      <ScaleFields />
      <Text<LoopForm> name="workingValue" label={`Works at, ${unit}`} decimal />
      <Text<LoopForm> name="tolerance" label={`Tolerance, ± ${unit}`} decimal />
      <Text<LoopForm> name="workingC" label="Water temperature, °C" decimal />
      <Text<LoopForm> name="intervalDays" label="Recalibrate every … days" decimal />
      <Pick<LoopForm> name="dueBy" label="The next run is due" options={DUE_BY_WORDS} />
    </>
  );
}

/** The standards that a run pours where nobody says otherwise. */
function UsualPoints({ loop: { family, settings, pointSet } }: { loop: SetUpLoop }) {
  const { data } = useShelfQuery();
  const { register } = useFormContext<LoopForm>();
  const nameOf = (id: string) => data?.standards.find((s) => s.id === id)?.name ?? id;
  const sets = [...new Set([pointSet.join(' '), ...usualSets(family, settings).map((set) => set.join(' '))])];
  if (sets.length < 2) return <input type="hidden" {...register('points')} />;
  const options = sets.map((set) => [set, set.split(' ').map(nameOf).join(', then ') || 'none'] as const);
  return <Pick<LoopForm> name="points" label="Usual standards" options={options} />;
}

const mayChange = (field: SettingField) => field.mayChange === true;

/** What its arithmetic must know beside its value; what runs rest on stays. */
function Knows({ loop, siteName }: { loop: SetUpLoop; siteName: string }) {
  const { data } = useMarginsQuery();
  const family = familyOf(loop.family);
  const typed = useFormContext<LoopForm>().watch('settings');
  const asked = askedBy(family, settingsOf(family, typed));
  const own = settingsThatMatter(family.settings, { ...loop.settings, ...typed }).filter(
    ([, field]) => !loop.hasRuns || !mayChange(field),
  );
  const free = Object.entries(family.settings).filter(([, field]) => loop.hasRuns && mayChange(field));
  if (!own.length && !free.length && !asked.length) return null;
  return (
    <details className={WIDE}>
      <summary className="cursor-pointer py-3 sub">What its arithmetic knows</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        {loop.hasRuns
          ? own.length > 0 && (
              <p className={`text-[15px] ${WIDE}`}>
                {own
                  .map(([key, field]) => `${upper(field.name)}: ${String(loop.settings[key] ?? field.usual)}`)
                  .join('; ')}
                . Its runs rest on that. To have it otherwise takes a loop of its own: “Another like this”.
              </p>
            )
          : own.length > 0 && <SettingFields family={family} />}
        {free.length > 0 && <SettingFields family={{ ...family, settings: Object.fromEntries(free) }} />}
        {asked.map((name) => (
          <ConditionFields key={name} name={name} site={siteName} rows={data?.rows ?? []} />
        ))}
      </div>
    </details>
  );
}

/** The sensor that is fitted there. */
const SensorFields = () => (
  <>
    <Text<LoopForm> name="sensorName" label="Sensor" />
    <Text<LoopForm> name="serial" label="Serial" hint="optional" />
    <Text<LoopForm> name="model" label="Model" hint="a name of your own for its kind" />
    <Text<LoopForm> name="boughtOn" label="Bought on" type="date" />
    <Text<LoopForm> name="fittedOn" label="Fitted on" type="date" />
  </>
);

/** Its channel, another like it, or put away. */
function OtherWays({ loop, openRunId, why }: { loop: SetUpLoop; openRunId: string | null; why: string }) {
  const [change, { error, isLoading }] = useChangeLoopMutation();
  const to: ChangeLoop['to'] = { archived: true };
  return (
    <span className="flex flex-wrap gap-2 ml-auto">
      {loop.sensor && (
        <>
          <Link className="btn btn-ghost h-12 font-normal" to={`/set-up/channel/${loop.sensor.sensorId}`}>
            Its channel
          </Link>
          <Link className="btn btn-ghost h-12 font-normal" to={`/sensors/${loop.sensor.sensorId}/life`}>
            Its sensor’s life
          </Link>
        </>
      )}
      <Link className="btn btn-ghost h-12 font-normal" to={`/set-up/fit/${loop.loopId}`}>
        {loop.sensor ? 'Replace its sensor' : 'Fit a sensor'}
      </Link>
      <Link className="btn btn-ghost h-12 font-normal" to={`/set-up/add?like=${loop.loopId}`}>
        Another like this
      </Link>
      {openRunId ? (
        <Link className="btn btn-ghost h-12 font-normal" to={`/bench/${openRunId}`}>
          Its run is open: end it to archive
        </Link>
      ) : (
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal"
          disabled={isLoading}
          onClick={() => void change({ loopId: loop.loopId, body: { version: loop.version, to, why } })}
        >
          Archive
        </button>
      )}
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </span>
  );
}

import {
  apply,
  builtIn,
  CATALOGUE,
  cupIn,
  familyOf,
  judge,
  modelOf,
  NO_FLEET,
  Refusal,
  replay,
  settleIn,
  responseIn,
  thinned,
  USUAL_HOLD_MIN,
  watched,
  type Capture,
  type DecisionAction,
  oddOf,
  type Entry,
  type Odd,
  type PlannedPoint,
  type RunEvent,
  type RunEventBody,
  type RunState,
  type ServiceEvent,
  type Standard,
  type Takes,
  type Unit,
  channelStep,
  eventsOf,
  planOf,
  pointsFor,
} from '@frustum/core';
import type { Bundle, BundleCapture, BundleEntry, BundleLoop, BundleRun } from '@frustum/formats';
import { channelSchema, stepsOf } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { LotRecord } from '../../store/commands/shelf.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { derivedOf } from '../runs/run-events.ts';

/** Samples of a trace that are kept with a capture. */
const KEPT_SAMPLES = 60;
const DWELL_SECONDS = 120;

/**
 * Reads a bundle into an empty application: every run is worked out anew from its traces, by the same core as at the
 * bench, and decided as its own verdict says.
 */
export async function loadBundle(context: Context, bundle: Bundle): Promise<void> {
  const { store, newId } = context;
  const loopIds = new Map(bundle.loops.map(({ key }) => [key, newId()]));
  for (const loop of bundle.loops) await addLoop(context, bundle, loop, loopIds);
  const shelf = await store.readStandards();
  const lots = new Map<string, LotRecord>();
  for (const { key, ...lot } of bundle.lots)
    lots.set(key, await store.addLot({ id: newId(), ...lot, table: null, plusMinus: null, usedUpOn: null }));
  const fitted = new Map((await store.readFittedLoops()).map((f) => [f.loop.name, f]));
  // The database has a thread of its own: it writes one loop's runs while the next one's are worked out here.
  const written: Promise<void>[] = [
    keepReadingsOf(context, bundle, fitted),
    keepServicesOf(context, bundle, fitted),
    keepDosesOf(context, bundle, fitted),
  ];
  for (const loop of bundle.loops) {
    // Lets the other thread's answers in between two loops.
    await new Promise(setImmediate);
    const at = fitted.get(loop.name)!;
    const mine = bundle.runs.filter((r) => r.loop === loop.key);
    const services = eventsOf((bundle.services ?? []).filter((s) => s.loop === loop.key));
    const made: { run: RunRecord; events: RunEvent[] }[] = [];
    for (const run of mine)
      made.push(
        remake(
          context,
          at,
          run,
          lots,
          made.map((m) => m.run),
          { shelf, services },
        ),
      );
    if (made.length) written.push(store.importRuns(made));
    const last = made.at(-1)?.run.outcome?.inForceAfter;
    // The transmitter remembers its last calibration; a stand-in has to be told once.
    if (last && at.channel.config.kind === 'modbus')
      await context.poller
        .writeCoefficients(at.channel.id, last)
        .catch((error: unknown) => context.log.warn({ error }, 'a transmitter did not take its coefficients'));
  }
  await Promise.all(written);
  context.changed();
}

/** A loop by the key that the bundle has for it. */
function byKey(bundle: Bundle, fitted: ReadonlyMap<string, FittedLoop>): (key: string) => FittedLoop | undefined {
  const names = new Map(bundle.loops.map((l) => [l.key, l.name]));
  return (key) => fitted.get(names.get(key) ?? '');
}

/** Readings between the runs, as minutes. */
async function keepReadingsOf(
  { store }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  for (const { loop, from, stepSeconds, values } of bundle.readings ?? []) {
    const channelId = loopOf(loop)?.channel.id;
    if (!channelId) continue;
    const startMs = Date.parse(from);
    await store.keepMinutes(
      values.flatMap((value, i) => {
        if (!value) return [];
        const [signal, temperatureC] = value;
        const minute = new Date(startMs + 1000 * stepSeconds * i).toISOString();
        return [{ channelId, minute, count: 1, mean: signal, low: signal, high: signal, temperatureC, onBench: false }];
      }),
    );
  }
}

/** What was done to the sensors between the runs. */
async function keepServicesOf(
  { store, newId }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  await store.keepServices(
    (bundle.services ?? []).flatMap(({ loop, at, kind, note, by }) => {
      const sensorId = loopOf(loop)?.sensor.id;
      return sensorId ? [{ id: newId(), sensorId, at, kind, note, by }] : [];
    }),
  );
}

/** What was dosed between the runs. */
async function keepDosesOf(
  { store, newId }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  await store.keepDoses(
    (bundle.doses ?? []).flatMap(({ loop, what, unit, given }) => {
      const loopId = loopOf(loop)?.loop.id;
      return loopId
        ? given.map(([at, amount]) => ({ id: newId(), loopId, at, what, amount, unit, notedAt: null }))
        : [];
    }),
  );
}

async function addLoop(
  { store, newId, poller }: Context,
  bundle: Bundle,
  loop: BundleLoop,
  loopIds: ReadonlyMap<string, string>,
): Promise<void> {
  const ids = { site: newId(), loop: loopIds.get(loop.key)!, sensor: newId(), channel: newId() };
  const { name, place, workingValue, workingC, tolerance, intervalDays, controls, pointSet } = loop;
  await store.addSensor({
    ids,
    siteName: bundle.site.name,
    timeZone: bundle.site.timeZone,
    loop: {
      name,
      place,
      family: loop.family,
      settings: { ...loop.settings },
      takes: takesOf(loop, loopIds),
      workingValue,
      workingC,
      tolerance,
      intervalDays,
      dueBy: loop.dueBy ?? 'calendar',
      controls,
      holdMinutes: loop.holdMinutes ?? USUAL_HOLD_MIN,
      controlAction: loop.controlAction ?? '',
      referenceGroup: loop.referenceGroup ?? '',
      surroundings: [...(loop.surroundings ?? [])],
      limits: {},
      pointSet: [...pointSet],
    },
    sensor: loop.sensor,
    channel: channelSchema.cast(loop.channel),
    resolution: resolutionOf(loop),
  });
  poller.add(ids.channel, channelSchema.cast(loop.channel), loop.sensor.fittedOn);
}

/** The loops that show conditions of this one, as this house knows them. */
const takesOf = ({ takes = {} }: BundleLoop, loopIds: ReadonlyMap<string, string>): Takes =>
  Object.fromEntries(
    Object.entries(takes).flatMap(([name, key]) => (loopIds.has(key) ? [[name, loopIds.get(key)]] : [])),
  );

/** Smallest step of a channel of the bundle, in the unit of its signal. */
function resolutionOf({ family: id, settings, workingValue, workingC, channel }: BundleLoop): number {
  const family = familyOf(id);
  const model = modelOf(family, { ...settings });
  return channelStep(family, model, stepsOf(channelSchema.cast(channel)), {
    value: workingValue,
    temperatureC: workingC,
  });
}

/** What a run of the bundle was held against, as the bench takes it in. */
function entryOf(entry: BundleEntry): Entry {
  if (entry.kind === 'sample') return { ...entry, unit: entry.unit as Unit };
  const [a = 0, b = a] = entry.readings;
  const reading = (temperatureC: number) => ({ temperatureC, plusMinusC: entry.plusMinus });
  return { kind: 'thermometers', a: reading(a), b: reading(b) };
}

/** One run as the bench would have kept it. */
function remake(
  context: Context,
  fitted: FittedLoop,
  run: BundleRun,
  lots: ReadonlyMap<string, LotRecord>,
  before: readonly RunRecord[],
  { shelf, services }: { readonly shelf: readonly Standard[]; readonly services: readonly ServiceEvent[] },
): { run: RunRecord; events: RunEvent[] } {
  const atMs = Date.parse(run.startedAt);
  const procedure = run.entry?.kind;
  const points = procedure
    ? pointsFor(fitted, { procedure, points: [], boxes: [] }, [], [])
    : run.passes[0]!.map((c): PlannedPoint => {
        const lot = lots.get(c.lot);
        const standard = CATALOGUE.find((s) => s.id === c.standardId);
        if (!standard) throw new Refusal('unknown-standard', `There is no standard “${c.standardId}” in this Frustum.`);
        return { standard, lot: { id: lot?.id ?? '', label: lot?.label ?? '' } };
      });
  const finished = before.flatMap((r) => (r.endedAt && r.outcome ? [{ endedAt: r.endedAt, outcome: r.outcome }] : []));
  const past = { finished, services: services.filter((s) => s.atMs <= atMs), fleet: NO_FLEET };
  const plan = planOf(fitted, points, past, atMs, {
    school: 'fixed-time',
    fixedSeconds: DWELL_SECONDS,
    ...(procedure ? { procedure: builtIn(procedure) } : {}),
  });
  const events: RunEvent[] = [];
  let clock = atMs;
  let state: RunState | null = null;
  const add = (body: RunEventBody, seconds = 20) => {
    clock += seconds * 1000;
    const seq = events.length + 1;
    const event: RunEvent = {
      seq,
      device: 'import',
      counter: seq,
      at: new Date(clock).toISOString(),
      by: run.by,
      body,
    };
    events.push(event);
    state = state ? apply(state, event) : replay(events);
    return state;
  };
  let now = add({ type: 'started', plan }, 0);
  let pass = 0;
  while (now.current) {
    const step = now.current;
    if (step.kind === 'settle') {
      const measured = step.purpose === 'read-back' ? null : (run.passes[pass]?.[step.pointIndex!] ?? null);
      const { capture, odd } = captureOf(now, measured, shelf);
      // Nobody can answer any more: the record says in spite of what it was taken.
      if (odd) add({ type: 'warned', stepId: step.id, odd, kept: true }, 0);
      now = add({ type: 'captured', stepId: step.id, traceSeconds: null, capture }, DWELL_SECONDS);
    } else if (step.kind === 'enter') {
      now = add({ type: 'entered', stepId: step.id, entry: entryOf(run.entry!), traceSeconds: null });
    } else if (step.kind === 'decide') {
      now = add({ type: 'decided', ...decision(now, pass < run.passes.length - 1) });
      pass++;
    } else if (step.kind === 'adjust') {
      now = add({ type: 'adjusted', coefficients: judge(now)!.calibration.coefficients, how: 'entered-by-hand' });
    } else now = add({ type: 'step-done', stepId: step.id, traceSeconds: null }, 40);
  }
  now = add({ type: 'closed' });
  const record: RunRecord = {
    id: context.newId(),
    sensorId: fitted.sensor.id,
    loopId: fitted.loop.id,
    startedAt: run.startedAt,
    ...derivedOf(now),
  };
  return { run: record, events };
}

/** What a trace of the bundle gives, and what looks odd about it, in the record's words. */
function captureOf(
  state: RunState,
  measured: BundleCapture | null,
  shelf: readonly Standard[],
): { capture: Capture; odd: Odd | null } {
  const step = state.current!;
  const pointIndex = step.pointIndex!;
  if (!measured) {
    // A read-back in the cup that the probe stands in: the same potential, one more look.
    const last = state.captures.findLast((c) => c.pointIndex === pointIndex)!;
    return { capture: { ...last, purpose: 'read-back', trace: [] }, odd: null };
  }
  const samples = measured.samples.map(([t, signal, temperatureC]) => ({ t, signal, temperatureC }));
  const { standard } = state.plan.points[pointIndex]!;
  const settled = settleIn(responseIn(state.plan, standard), samples, state.plan.school, state.plan.resolution);
  if (settled.state === 'waiting')
    throw new Refusal('trace-too-short', `The trace of ${standard.name} has too few samples to say where it stands.`);
  return {
    odd: oddOf(watched(cupIn(state, step, standard, shelf), settled, samples)?.warning),
    capture: {
      pointIndex,
      purpose: step.purpose!,
      method: 'trace',
      signal: settled.level,
      signalUncertainty: settled.levelUncertainty,
      temperatureC: settled.temperatureC,
      settledSeconds: settled.seconds,
      t90: settled.t90,
      trace: thinned(samples, KEPT_SAMPLES),
    },
  };
}

/** As its verdict says; what cannot be followed in an imported run (no second pass, no spare) is left with a word. */
function decision(state: RunState, cleaned: boolean): { action: DecisionAction; because: string } {
  if (cleaned) return { action: 'clean-and-retest', because: 'Growth on the glass.' };
  const action = judge(state)?.action ?? 'leave';
  if (action === 'clean-and-retest' || action === 'replace')
    return { action: 'leave', because: 'No spare at hand; watched.' };
  return { action, because: '' };
}

import {
  apply,
  buffer,
  judge,
  replay,
  settleIn,
  stepIn,
  thinned,
  type DecisionAction,
  type PlannedPoint,
  type RunEvent,
  type RunEventBody,
  type RunState,
} from '@frustum/core';
import type { Bundle, BundleCapture, BundleLoop, BundleRun } from '@frustum/formats';
import { channelSchema } from '@frustum/contract';
import type { Context } from '../context.ts';
import type { FittedLoop } from '../store/commands/places.ts';
import type { LotRecord } from '../store/commands/shelf.ts';
import type { RunRecord } from '../store/commands/runs.ts';
import { derivedOf, planOf } from './runs.ts';

/** Samples of a trace that are kept with a capture. */
const KEPT_SAMPLES = 60;
const DWELL_SECONDS = 120;

/**
 * Reads a bundle into an empty application: every run is worked out anew from its traces, by the same core as at the
 * bench, and decided as its own verdict says.
 */
export async function loadBundle(context: Context, bundle: Bundle): Promise<void> {
  const { store, newId } = context;
  for (const loop of bundle.loops) await addLoop(context, bundle, loop);
  const lots = new Map<string, LotRecord>();
  for (const { key, ...lot } of bundle.lots)
    lots.set(key, await store.addLot({ id: newId(), ...lot, table: null, plusMinus: null }));
  const fitted = new Map((await store.readFittedLoops()).map((f) => [f.loop.name, f]));
  for (const loop of bundle.loops) {
    const at = fitted.get(loop.name)!;
    const mine = bundle.runs.filter((r) => r.loop === loop.key);
    const made: { run: RunRecord; events: RunEvent[] }[] = [];
    for (const run of mine)
      made.push(
        remake(
          context,
          at,
          run,
          lots,
          made.map((m) => m.run),
        ),
      );
    if (made.length) await store.importRuns(made);
    const last = made.at(-1)?.run.outcome?.inForceAfter;
    // The transmitter remembers its last calibration; a stand-in has to be told once.
    if (last)
      await context.poller
        .writeCoefficients(at.channel.id, last)
        .catch((error: unknown) => context.log.warn({ error }, 'a transmitter did not take its coefficients'));
  }
  await keepReadingsOf(context, bundle, fitted);
  await keepServicesOf(context, bundle, fitted);
  context.changed();
}

/** Readings between the runs, as minutes. */
async function keepReadingsOf(
  { store }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const names = new Map(bundle.loops.map((l) => [l.key, l.name]));
  for (const { loop, from, stepSeconds, values } of bundle.readings ?? []) {
    const channelId = fitted.get(names.get(loop) ?? '')?.channel.id;
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
  const names = new Map(bundle.loops.map((l) => [l.key, l.name]));
  await store.keepServices(
    (bundle.services ?? []).flatMap(({ loop, at, kind, note, by }) => {
      const sensorId = fitted.get(names.get(loop) ?? '')?.sensor.id;
      return sensorId ? [{ id: newId(), sensorId, at, kind, note, by }] : [];
    }),
  );
}

async function addLoop({ store, newId, poller }: Context, bundle: Bundle, loop: BundleLoop): Promise<void> {
  const ids = { site: newId(), loop: newId(), sensor: newId(), channel: newId() };
  const {
    name,
    place,
    workingPh: workingValue,
    workingC,
    tolerancePh: tolerance,
    intervalDays,
    controls,
    pointSet,
  } = loop;
  await store.addSensor({
    ids,
    siteName: bundle.site.name,
    timeZone: bundle.site.timeZone,
    loop: {
      name,
      place,
      family: 'ph',
      workingValue,
      workingC,
      tolerance,
      intervalDays,
      controls,
      pointSet: [...pointSet],
    },
    sensor: loop.sensor,
    channel: channelSchema.cast(loop.channel),
    resolution: 0.1,
  });
  poller.add(ids.channel, channelSchema.cast(loop.channel));
}

/** One run as the bench would have kept it. */
function remake(
  context: Context,
  fitted: FittedLoop,
  run: BundleRun,
  lots: ReadonlyMap<string, LotRecord>,
  before: readonly RunRecord[],
): { run: RunRecord; events: RunEvent[] } {
  const atMs = Date.parse(run.startedAt);
  const points = run.passes[0]!.map((c): PlannedPoint => {
    const lot = lots.get(c.lot);
    return { standard: buffer(c.standardId), lot: { id: lot?.id ?? '', label: lot?.label ?? '' } };
  });
  const finished = before.flatMap((r) => (r.endedAt && r.outcome ? [{ endedAt: r.endedAt, outcome: r.outcome }] : []));
  const plan = planOf(fitted, points, finished, atMs, { school: 'fixed-time', fixedSeconds: DWELL_SECONDS });
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
      const samples = step.purpose === 'read-back' ? null : (run.passes[pass]?.[step.pointIndex!] ?? null);
      now = add(
        { type: 'captured', stepId: step.id, traceSeconds: null, capture: captureOf(now, samples) },
        DWELL_SECONDS,
      );
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

function captureOf(state: RunState, measured: BundleCapture | null) {
  const step = state.current!;
  const pointIndex = step.pointIndex!;
  if (!measured) {
    // A read-back in the cup that the probe stands in: the same potential, one more look.
    const last = state.captures.findLast((c) => c.pointIndex === pointIndex)!;
    return { ...last, purpose: 'read-back' as const, trace: [] };
  }
  const samples = measured.samples.map(([t, signal, temperatureC]) => ({ t, signal, temperatureC }));
  const { standard } = state.plan.points[pointIndex]!;
  const counts = stepIn(state.plan, standard, standard.nominalAtC);
  const settled = settleIn(counts, samples, state.plan.school, state.plan.resolution);
  return {
    pointIndex,
    purpose: step.purpose!,
    method: 'trace' as const,
    signal: settled.level,
    signalUncertainty: settled.levelUncertainty,
    temperatureC: settled.temperatureC,
    settledSeconds: settled.seconds,
    t90: settled.t90,
    trace: thinned(samples, KEPT_SAMPLES),
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

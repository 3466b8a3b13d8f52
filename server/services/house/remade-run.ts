import {
  builtIn,
  CATALOGUE,
  cupIn,
  judge,
  NO_FLEET,
  oddOf,
  planOf,
  pointsFor,
  Refusal,
  responseIn,
  settleIn,
  thinned,
  watched,
  type Capture,
  type DecisionAction,
  type Entry,
  type Odd,
  type PlannedPoint,
  type RunEvent,
  type RunState,
  type ServiceEvent,
  type Standard,
} from '@frustum/core';
import type { BundleCapture, BundleEntry, BundleRun } from '@frustum/formats';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import type { LotRecord } from '../../store/commands/shelf.ts';
import { derivedOf } from '../runs/run-events.ts';
import { RunKept } from './run-kept.ts';

/** Samples of a trace that are kept with a capture. */
const KEPT_SAMPLES = 60;
const DWELL_SECONDS = 120;

/** What a run of the bundle was held against, as the bench takes it in. */
function entryOf(entry: BundleEntry): Entry {
  if (entry.kind === 'sample') return { ...entry, unit: entry.unit };
  const [a = 0, b = a] = entry.readings;
  const reading = (temperatureC: number) => ({ temperatureC, plusMinusC: entry.plusMinus });
  return { kind: 'thermometers', a: reading(a), b: reading(b) };
}

/** What was there before a run, and the bottles of its house. */
interface Background {
  readonly lots: ReadonlyMap<string, LotRecord>;
  readonly before: readonly RunRecord[];
  readonly shelf: readonly Standard[];
  readonly services: readonly ServiceEvent[];
}

/** One run as the bench would have kept it. */
export function remadeRun(
  newId: () => string,
  fitted: FittedLoop,
  run: BundleRun,
  background: Background,
): { run: RunRecord; events: RunEvent[] } {
  const kept = new RunKept(run);
  let now = kept.add({ type: 'started', plan: planFor(fitted, run, background) }, 0);
  let pass = 0;
  while (now.current) {
    const step = now.current;
    if (step.kind === 'settle') {
      const measured = step.purpose === 'read-back' ? null : (run.passes[pass]?.[step.pointIndex!] ?? null);
      const { capture, odd } = captureOf(now, measured, background.shelf);
      // Nobody can answer any more: the record says in spite of what it was taken.
      if (odd) kept.add({ type: 'warned', stepId: step.id, odd, kept: true }, 0);
      now = kept.add({ type: 'captured', stepId: step.id, traceSeconds: null, capture }, DWELL_SECONDS);
    } else if (step.kind === 'enter') {
      now = kept.add({ type: 'entered', stepId: step.id, entry: entryOf(run.entry!), traceSeconds: null });
    } else if (step.kind === 'decide') {
      now = kept.add({ type: 'decided', ...decision(now, pass < run.passes.length - 1) });
      pass++;
    } else if (step.kind === 'adjust') {
      now = kept.add({ type: 'adjusted', coefficients: judge(now)!.calibration.coefficients, how: 'entered-by-hand' });
    } else now = kept.add({ type: 'step-done', stepId: step.id, traceSeconds: null }, 40);
  }
  now = kept.add({ type: 'closed' });
  const record: RunRecord = {
    id: newId(),
    sensorId: fitted.sensor.id,
    loopId: fitted.loop.id,
    startedAt: run.startedAt,
    ...derivedOf(now),
  };
  return { run: record, events: kept.events };
}

function planFor(fitted: FittedLoop, run: BundleRun, { lots, before, services }: Background) {
  const atMs = Date.parse(run.startedAt);
  const procedure = run.entry?.kind;
  const points = procedure
    ? pointsFor(fitted, { procedure, points: [], boxes: [] }, [], [], 0)
    : run.passes[0]!.map((c): PlannedPoint => {
        const lot = lots.get(c.lot);
        const standard = CATALOGUE.find((s) => s.id === c.standardId);
        if (!standard) throw new Refusal('unknown-standard', `There is no standard “${c.standardId}” in this Frustum.`);
        return { standard, lot: { id: lot?.id ?? '', label: lot?.label ?? '' } };
      });
  const finished = before.flatMap((r) => (r.endedAt && r.outcome ? [{ endedAt: r.endedAt, outcome: r.outcome }] : []));
  const past = { finished, services: services.filter((s) => s.atMs <= atMs), fleet: NO_FLEET };
  return planOf(fitted, points, past, atMs, {
    school: 'fixed-time',
    fixedSeconds: DWELL_SECONDS,
    ...(procedure ? { procedure: builtIn(procedure) } : {}),
  });
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

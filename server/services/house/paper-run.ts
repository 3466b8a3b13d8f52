import {
  builtIn,
  isCell,
  judge,
  NO_FLEET,
  paperUncertainty,
  planOf,
  pointsFor,
  modelOf,
  familyOf,
  Refusal,
  scaleOf,
  shownValue,
  signalOfReading,
  type Coefficients,
  type Ended,
  type Entry,
  type PlannedPoint,
  type RunEvent,
  type RunState,
  type ServiceEvent,
  type Standard,
} from '@frustum/core';
import type { LogbookRow } from '@frustum/formats';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { derivedOf } from '../runs/run-events.ts';
import { RunKept } from './run-kept.ts';

/** A past run: its lines, in the order of the paper, and the standard of each; null for a sample. */
export interface PaperRun {
  readonly at: string;
  readonly by: string;
  readonly lines: readonly { readonly row: LogbookRow; readonly standard: Standard | null }[];
}

/** What was before it. */
export interface PaperPast {
  readonly finished: readonly Ended[];
  readonly services: readonly ServiceEvent[];
}

/** One run as the bench would have kept it, its figures typed, and known as well as paper knows them. */
export function paperRun(
  newId: () => string,
  fitted: FittedLoop,
  paper: PaperRun,
  past: PaperPast,
): { run: RunRecord; events: RunEvent[] } {
  const kept = new RunKept({ by: paper.by, startedAt: paper.at });
  const plan = { ...planFor(fitted, paper, past), fromPaper: true as const };
  let now = kept.add({ type: 'started', plan }, 0);
  const book = bookOf(fitted, paper, plan.inForce);
  while (now.current) {
    const step = now.current;
    if (step.id === 'read-back') {
      const signal = book.readBack(now);
      now = signal === null
        ? kept.add({ type: 'skipped', stepId: step.id, traceSeconds: null, because: 'It is not in the logbook.' })
        : kept.add({ type: 'captured', stepId: step.id, traceSeconds: null, capture: { ...book.capture(step.pointIndex!), signal, purpose: 'read-back' } }); // prettier-ignore
    } else if (step.kind === 'settle') {
      const capture = { ...book.capture(step.pointIndex!), purpose: step.purpose! };
      now = kept.add({ type: 'captured', stepId: step.id, traceSeconds: null, capture });
    } else if (step.kind === 'enter')
      now = kept.add({ type: 'entered', stepId: step.id, entry: book.entry(), traceSeconds: null }); // prettier-ignore
    else if (step.kind === 'decide') now = kept.add({ type: 'decided', ...decisionOf(now, paper) });
    else if (step.kind === 'adjust') {
      const { coefficients } = requireVerdict(now).calibration;
      now = kept.add({ type: 'adjusted', coefficients, how: 'entered-by-hand' });
    } else now = kept.add({ type: 'step-done', stepId: step.id, traceSeconds: null });
  }
  now = kept.add({ type: 'closed' });
  const record: RunRecord = { id: newId(), sensorId: fitted.sensor.id, loopId: fitted.loop.id, startedAt: paper.at, ...derivedOf(now) }; // prettier-ignore
  return { run: record, events: kept.events };
}

/** @throws Refusal `standards-not-distinct` where its figures say nothing */
function requireVerdict(state: RunState) {
  const verdict = judge(state);
  if (verdict) return verdict;
  throw new Refusal('standards-not-distinct', 'These figures give no zero and slope. Check standards and readings.');
}

/** As the paper says: adjusted where it has a reading after it. */
function decisionOf(state: RunState, { lines }: PaperRun) {
  const { action } = requireVerdict(state);
  const adjusted = lines.some((l) => l.row.asLeft !== null);
  const because = (adjusted ? 'adjust' : 'leave') === action ? '' : 'as the logbook has it';
  return { action: adjusted ? ('adjust' as const) : ('leave' as const), because };
}

function planFor(fitted: FittedLoop, { at, lines }: PaperRun, { finished, services }: PaperPast) {
  const sample = lines.some((l) => l.standard === null);
  const points = sample
    ? pointsFor(fitted, { procedure: 'sample', points: [], boxes: [] }, [], [], 0)
    : lines.map(({ standard }): PlannedPoint => ({ standard: standard!, lot: { id: '', label: '' } }));
  const atMs = Date.parse(at);
  const past = { finished, services: services.filter((s) => s.atMs <= atMs), fleet: NO_FLEET };
  return planOf(fitted, points, past, atMs, {
    school: 'fixed-time',
    fixedSeconds: 120,
    procedure: builtIn(sample ? 'sample' : 'calibrate'),
  });
}

/** The figures of the paper as the bench takes them. */
function bookOf({ loop }: FittedLoop, { lines }: PaperRun, inForce: Coefficients) {
  const model = modelOf(familyOf(loop.family), loop.settings);
  const signalUncertainty = paperUncertainty({ loop });
  // Paper has what the display showed, in the unit of the display.
  const unit = loop.shownAs.scale || model.valueUnit;
  const at = (i: number) => ({ temperatureC: lines[i]!.row.temperatureC ?? loop.workingC });
  const signalOf = (reading: number, i: number, by: Coefficients) => {
    const { standard } = lines[i]!;
    // In air, say, a cell shows a conductance where it has no salinity.
    const noValue = standard !== null && standard.nominal < model.range.low && isCell(model);
    return signalOfReading(model, reading, noValue ? model.signalUnit : unit, at(i), by);
  };
  const signal = (i: number) => signalOf(lines[i]!.row.asFound, i, inForce);
  return {
    capture: (i: number) => ({
      pointIndex: i,
      method: 'typed' as const,
      signal: signal(i),
      signalUncertainty,
      ...at(i),
      settledSeconds: null,
      t90: null,
      trace: [],
    }),
    readBack: (now: RunState): number | null => {
      const i = lines.length - 1;
      const { asLeft } = lines[i]!.row;
      return asLeft === null || !now.adjusted ? null : signalOf(asLeft, i, now.adjusted.coefficients);
    },
    /** A lab’s figure without a ± of its own is known as well as the reading. */
    entry: (): Entry => {
      const { value } = lines[0]!.row;
      const scale = scaleOf(model, loop.shownAs.scale);
      const shown = (by: number) => scale.of(shownValue(model, signal(0) + by, at(0), inForce), at(0));
      const plusMinus = Math.abs(shown(2 * signalUncertainty) - shown(0));
      return { kind: 'sample', value: value!, unit, plusMinus, ...at(0) };
    },
  };
}

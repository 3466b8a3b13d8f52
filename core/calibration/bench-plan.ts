import { familyOf } from '../families/registry.ts';
import { expectedIn, signalOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { STATISTICAL } from '../settling/settle.ts';
import type { Standard } from '../solutions/standard.ts';
import { nextMovement, type Movement, type OnTheBench, type Places } from './bench-of-many.ts';
import type { RunEvent, RunEventBody, RunPlan } from './events.ts';
import { familyOfPlan } from './plan.ts';
import type { Step } from './procedure.ts';
import { apply, replay } from './replay.ts';
import type { RunState } from './state.ts';

/** Seconds that things usually take: hands for one movement, a look at a verdict, a first settling, and one after a wiggle. Common practice, no source. */
const HANDS_S = 15;
const VERDICT_S = 20;
const SETTLING_S = 90;
const SECOND_S = 45;
/** A bench that is not done after so many movements is not planned well. */
const MAX_MOVEMENTS = 400;

/** What of a loop decides the steps of its run. */
type Planned = Pick<RunPlan, 'family' | 'loopName' | 'workingValue' | 'workingC' | 'tolerance'> &
  Partial<Pick<RunPlan, 'settings' | 'controls' | 'school' | 'channelKind'>>;

/**
 * A plan before anything is known of the sensor: it is taken as an ideal one.
 *
 * @param standards in the order in which they are poured
 */
export function planOnPaper(of: Planned, standards: readonly Standard[]): RunPlan {
  return {
    settings: {},
    controls: '',
    school: STATISTICAL,
    channelKind: 'wired',
    ...of,
    sensorName: of.loopName,
    points: standards.map((standard) => ({ standard, lot: { id: '', label: '' } })),
    limits: familyOf(of.family).limits,
    inForce: { zero: 0, sensitivity: 1 },
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 5, sensitivity: 1, sensitivitySd: 0.03 },
    resolution: 0.1,
  };
}

/** One movement of hands, as it will be named when it is due. */
export interface PlannedMovement extends Movement {
  /** after the beginning, s */
  readonly atSeconds: number;
}

export interface BenchPlan {
  readonly movements: readonly PlannedMovement[];
  /** until the last sensor is back, s */
  readonly seconds: number;
  /** the same runs one after the other, s */
  readonly oneByOneSeconds: number;
}

/** A run on paper: where it stands, since when it settles, and whether it was wiggled. */
interface OnPaper {
  readonly runId: string;
  state: RunState;
  since: number;
  wiggled: boolean;
}

/**
 * How a bench of several goes if all goes as usual: the runs are played on paper, and hands do what `nextMovement` names, as
 * they will then. Nothing is adjusted, and no cup is doubted.
 *
 * @param plans of the runs, each by its id
 * @param places room in each standard
 */
export function planBench(plans: Readonly<Record<string, RunPlan>>, places: Places): BenchPlan {
  const all = Object.entries(plans);
  const { movements, seconds } = played(all, places);
  const alone = all.map((one) => played([one], places).seconds);
  return { movements, seconds, oneByOneSeconds: alone.reduce((sum, s) => sum + s, 0) };
}

function played(
  plans: readonly (readonly [string, RunPlan])[],
  places: Places,
): Pick<BenchPlan, 'movements' | 'seconds'> {
  const runs = plans.map(([runId, plan]): OnPaper => ({ runId, state: begun(plan), since: 0, wiggled: false }));
  const movements: PlannedMovement[] = [];
  let now = 0;
  for (let count = 0; count < MAX_MOVEMENTS; count++) {
    capturesUpTo(runs, now);
    const open = runs.filter((r) => r.state.current);
    const next = nextMovement(
      open.map((r) => benchOf(r, now)),
      places,
    );
    if (!next) break;
    const one = open.find((r) => r.runId === next.runId)!;
    if (next.kind === 'free') {
      now = Math.min(...open.map((r) => steadyAt(r)).filter((at) => at > now));
      if (!Number.isFinite(now)) break;
      continue;
    }
    movements.push({ ...next, atSeconds: now });
    now += next.kind === 'decide' ? VERDICT_S : HANDS_S;
    done(one, next, now);
  }
  return { movements, seconds: now };
}

const begun = (plan: RunPlan): RunState => replay([eventOf(0, { type: 'started', plan })]);

function eventOf(seq: number, body: RunEventBody): RunEvent {
  const at = new Date(1000 * seq).toISOString();
  return { seq: seq + 1, device: 'paper', counter: seq, at, by: '', body };
}

function add(run: OnPaper, body: RunEventBody, now: number): void {
  run.state = apply(run.state, eventOf(run.state.seq, body));
  run.since = now;
  run.wiggled = run.state.current?.purpose !== 'repeat';
}

/** When what settles is steady, s; for what waits on a clock, when it is over; never for anything else. */
function steadyAt({ state, since, wiggled }: OnPaper): number {
  const step = state.current;
  if (step?.kind === 'wait') return since + (step.seconds ?? 0);
  if (step?.kind !== 'settle' || !wiggled) return Infinity;
  return since + (step.purpose === 'repeat' ? SECOND_S : dwellOf(state, step));
}

const dwellOf = ({ plan }: RunState, step: Step): number =>
  plan.school.kind === 'fixed-time' && step.purpose !== 'read-back' ? plan.school.seconds : SETTLING_S;

function benchOf(run: OnPaper, now: number): OnTheBench {
  const { runId, state, wiggled } = run;
  const toGo = Math.max(0, steadyAt(run) - now);
  const settling =
    state.current?.kind === 'settle'
      ? { ready: false, armed: true, warned: false, wiggled, toGo: Number.isFinite(toGo) ? toGo : null }
      : null;
  return { runId, state, settling };
}

/** Whatever is steady by now is captured by itself; whatever has waited its time goes on. */
function capturesUpTo(runs: readonly OnPaper[], now: number): void {
  for (const run of runs) {
    const step = run.state.current;
    const at = steadyAt(run);
    if (!step || at > now) continue;
    if (step.kind === 'wait') add(run, { type: 'step-done', stepId: step.id, traceSeconds: null }, now);
    else add(run, captureIn(run.state, step), now);
  }
}

function captureIn({ plan }: RunState, step: Step): RunEventBody {
  const pointIndex = step.pointIndex!;
  const { standard } = plan.points[pointIndex]!;
  const { model } = familyOfPlan(plan);
  const temperatureC = standard.nominalAtC;
  const signal =
    unlessRefused(() =>
      signalOf(model, expectedIn(model, { standard, temperatureC }), { temperatureC }, plan.inForce),
    ) ?? 0;
  const capture = {
    pointIndex,
    purpose: step.purpose!,
    method: 'live' as const,
    signal,
    signalUncertainty: 0,
    temperatureC,
    settledSeconds: null,
    t90: null,
    trace: [],
  };
  return { type: 'captured', stepId: step.id, traceSeconds: null, capture };
}

function done(run: OnPaper, { kind, stepId }: Movement, now: number): void {
  if (kind === 'wiggle') {
    run.wiggled = true;
    run.since = now;
  } else if (kind === 'decide') add(run, { type: 'decided', action: 'leave', because: '' }, now);
  else add(run, { type: 'step-done', stepId, traceSeconds: null }, now);
}

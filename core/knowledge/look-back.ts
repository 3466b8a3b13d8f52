import { type LookBack, lookBacks } from '../drift/look-back.ts';
import type { Fitted } from './fitted.ts';
import { comesBefore } from './gates.ts';
import { coneOf, driftOf, observationsOf, ofSensor } from './history.ts';
import type { Past } from './past.ts';
import type { HouseKnowledge } from './house.ts';
import type { SensorId } from '../quantities/ids.ts';

/** A dose that was given. */
export interface Dose {
  /** ISO 8601 */
  readonly at: string;
  readonly what: string;
  readonly amount: number;
  readonly unit: string;
}

/** An alarm that was raised. */
export interface Raised {
  readonly raisedAt: string;
  readonly text: string;
}

/** What leaned on a reading while it was probably wrong. */
export interface Leaned {
  readonly kind: 'control' | 'sample' | 'run' | 'alarm' | 'dose' | 'notice';
  /** null = all that time */
  readonly atMs: number | null;
  readonly untilMs?: number;
  readonly what: string;
  readonly sensorId: SensorId;
}

/** When a sensor was probably wrong, the latest last. */
export function lookBacksOf(fitted: Fitted, past: Past, nowMs: number): readonly LookBack[] {
  const { prior, working } = driftOf(fitted, past.fleet);
  const mine = ofSensor(past.finished);
  const before = mine[0]?.outcome.inForceBefore;
  // What it showed at another loop is not looked back at here.
  // Since the last run it is as the picture has it: over all explanations.
  const { errorAt } = coneOf(fitted, past, nowMs, nowMs);
  return lookBacks(
    observationsOf(mine),
    prior,
    working,
    fitted.loop.tolerance,
    nowMs,
    before,
    past.services,
    errorAt,
  ).filter((back) => back.fromMs >= (fitted.sensor.fittedMs ?? -Infinity));
}

/**
 * What leaned on a sensor in such a time: what it steers, what was dosed, samples, alarms, and runs of those that come after it.
 *
 * @param doses of that time
 */
export const leanedOn = (
  back: LookBack,
  fitted: Fitted,
  house: HouseKnowledge,
  alarms: readonly Raised[],
  doses: readonly Dose[],
): Leaned[] => [...dosedIn(doses, fitted), ...leanedIn(back, fitted, house, alarms)];

/** What was dosed, each substance on one line: how often, how much in all, and when first and last. */
function dosedIn(doses: readonly Dose[], { sensor }: Fitted): Leaned[] {
  const by = new Map<string, Dose[]>();
  for (const dose of doses) {
    const key = `${dose.what}\n${dose.unit}`;
    by.set(key, [...(by.get(key) ?? []), dose]);
  }
  return [...by.values()].map((same) => {
    const [{ what, unit, at }] = same as [Dose];
    const sum = Number(same.reduce((s, d) => s + d.amount, 0).toPrecision(4));
    const often = same.length === 1 ? 'one dose' : `${same.length} doses`;
    return {
      kind: 'dose',
      atMs: Date.parse(at),
      ...(same.length > 1 ? { untilMs: Date.parse(same.at(-1)!.at) } : {}),
      what: `${often} of ${what}, ${sum} ${unit}${same.length === 1 ? '' : ' in all'}`,
      sensorId: sensor.id,
    };
  });
}

/** What leaned on a sensor in a stretch of time: what it steers, its samples, alarms of it, and runs of those that come after it. */
function leanedIn(
  { fromMs, toMs }: LookBack,
  fitted: Fitted,
  house: HouseKnowledge,
  alarms: readonly Raised[],
): Leaned[] {
  const { loop, sensor } = fitted;
  const { all, finishedOf } = house;
  const within = (at: string) => Date.parse(at) >= fromMs && Date.parse(at) <= toMs;
  const control: Leaned[] = loop.controls
    ? [{ kind: 'control', atMs: null, what: `${loop.controls}, steered by it all that time`, sensorId: sensor.id }]
    : [];
  const samples = finishedOf(sensor.id)
    .filter((r) => r.outcome.kind === 'grab-sample' && within(r.endedAt))
    .map((r): Leaned => ({
      kind: 'sample',
      atMs: Date.parse(r.endedAt),
      what: 'a grab sample, held against it',
      sensorId: sensor.id,
    }));
  const after = all.filter((o) => comesBefore(loop, o));
  const runs = after.flatMap((o) =>
    finishedOf(o.sensor.id)
      .filter((r) => within(r.endedAt))
      .map((r): Leaned => ({
        kind: 'run',
        atMs: Date.parse(r.endedAt),
        what: `a run of ${o.loop.name}, which leans on it`,
        sensorId: o.sensor.id,
      })),
  );
  const raised = alarms
    .filter((a) => within(a.raisedAt))
    .map((a): Leaned => ({
      kind: 'alarm',
      atMs: Date.parse(a.raisedAt),
      what: `an alarm: ${a.text}`,
      sensorId: sensor.id,
    }));
  const noted = (house.pastOf(fitted).notices ?? [])
    .filter((n) => n.atMs >= fromMs && n.atMs <= toMs)
    .map((n): Leaned => ({ kind: 'notice', atMs: n.atMs, what: `noted: ${n.kind}`, sensorId: sensor.id }));
  return [...control, ...[...samples, ...runs, ...raised, ...noted].sort((a, b) => a.atMs! - b.atMs!)];
}

import { lookBacks, type LookBack } from '@frustum/core';
import type { LeanedRow, LookBackView } from '@frustum/contract';
import type { FittedLoop } from '../store/commands/places.ts';
import { comesBefore } from './gates.ts';
import { driftOf, observationsOf, ofSensor } from './history.ts';
import type { House } from './house.ts';
import type { DoseRecord } from '../store/commands/doses.ts';
import type { AlarmRecord } from '../store/commands/alarms.ts';

/** When a sensor was probably wrong, and what was decided on its readings then. */
export async function lookBackOf(
  fitted: FittedLoop,
  house: House,
  alarms: readonly AlarmRecord[],
  dosesOf: (fromMs: number, toMs: number) => Promise<readonly DoseRecord[]>,
  nowMs: number,
): Promise<LookBackView[]> {
  const past = house.pastOf(fitted);
  const { prior, working } = driftOf(fitted, past.fleet);
  const mine = ofSensor(past.finished);
  const { tolerance } = fitted.loop;
  const before = mine[0]?.outcome.inForceBefore;
  const found = lookBacks(observationsOf(mine), prior, working, tolerance, nowMs, before, past.services);
  const views = found.map(async (l) => {
    const dosed = await dosesOf(l.fromMs, l.toMs);
    return { ...l, leaned: [...dosedIn(dosed, fitted), ...leanedIn(l, fitted, house, alarms)] };
  });
  return (await Promise.all(views)).reverse();
}

/** What was dosed, each substance on one line: how often, how much in all, and when first and last. */
function dosedIn(doses: readonly DoseRecord[], { sensor }: FittedLoop): LeanedRow[] {
  const by = new Map<string, DoseRecord[]>();
  for (const dose of doses) {
    const key = JSON.stringify([dose.what, dose.unit]);
    by.set(key, [...(by.get(key) ?? []), dose]);
  }
  return [...by.values()].map((same) => {
    const [{ what, unit, at }] = same as [DoseRecord];
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
  { loop, sensor }: FittedLoop,
  { all, finishedOf }: House,
  alarms: readonly AlarmRecord[],
): LeanedRow[] {
  const within = (at: string) => Date.parse(at) >= fromMs && Date.parse(at) <= toMs;
  const control: LeanedRow[] = loop.controls
    ? [{ kind: 'control', atMs: null, what: `${loop.controls}, steered by it all that time`, sensorId: sensor.id }]
    : [];
  const samples = finishedOf(sensor.id)
    .filter((r) => r.outcome.kind === 'grab-sample' && within(r.endedAt))
    .map((r): LeanedRow => ({
      kind: 'sample',
      atMs: Date.parse(r.endedAt),
      what: 'a grab sample, held against it',
      sensorId: sensor.id,
    }));
  const after = all.filter((o) => comesBefore(loop, o));
  const runs = after.flatMap((o) =>
    finishedOf(o.sensor.id)
      .filter((r) => within(r.endedAt))
      .map((r): LeanedRow => ({
        kind: 'run',
        atMs: Date.parse(r.endedAt),
        what: `a run of ${o.loop.name}, which leans on it`,
        sensorId: o.sensor.id,
      })),
  );
  const raised = alarms
    .filter((a) => within(a.raisedAt))
    .map((a): LeanedRow => ({
      kind: 'alarm',
      atMs: Date.parse(a.raisedAt),
      what: `an alarm: ${a.text}`,
      sensorId: sensor.id,
    }));
  return [...control, ...[...samples, ...runs, ...raised].sort((a, b) => a.atMs! - b.atMs!)];
}

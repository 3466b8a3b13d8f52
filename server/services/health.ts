import {
  causesOf,
  diagnose,
  familyOf,
  healthFacts,
  modelOf,
  type Diagnosis,
  type HealthChecks,
  type HealthFigure,
  type PastRun,
} from '@frustum/core';
import type { FittedLoop } from '../store/commands/places.ts';
import { fellowsOf, sampleOffOf, stepAt } from './checks.ts';
import { ofSensor } from './history.ts';
import type { House } from './house.ts';

/** After these a sensor's earlier runs say nothing of its present halves. */
const BEGINS_ANEW = ['refilled', 'tip replaced', 'stored dry'];

/** An electrode with a reference of its own or a shared one: what the causes are written for. */
export function isElectrode({ loop }: FittedLoop): boolean {
  const { signalUnit } = modelOf(familyOf(loop.family), loop.settings);
  return signalUnit === 'mV';
}

/**
 * Which half of an electrode is failing, by its own runs and those of what shares its reference or its bottles.
 *
 * @param said what readings and transmitter say now
 * @returns null for a sensor that is no electrode, or has no run yet
 */
export function healthOf(fitted: FittedLoop, house: House, said: HealthChecks = {}): Diagnosis | null {
  const { finished, services } = house.pastOf(fitted);
  // A refill or a new tip begins another story: what was before it is no evidence of wear.
  const sinceMs = services.findLast((s) => BEGINS_ANEW.includes(s.kind))?.atMs ?? 0;
  const past = isElectrode(fitted) ? house.inStandards(fitted).filter((p) => p.atMs >= sinceMs) : [];
  const [first] = past;
  if (!first) return null;
  const mine = ofSensor(finished).filter((r) => Date.parse(r.endedAt) >= sinceMs);
  const timed = mine.flatMap(({ outcome }) =>
    outcome.t90 ? [{ t90: outcome.t90, temperatureC: outcome.t90C ?? fitted.loop.workingC }] : [],
  );
  const siblings = house
    .onReferenceOf(fitted)
    .filter(isElectrode)
    .flatMap((o) => movedSince(house.inStandards(o), first.atMs));
  const step = stepAt(fitted);
  const beside = house.all
    .filter((o) => o.sensor.id !== fitted.sensor.id && o.loop.family === fitted.loop.family)
    .map((o) => ({ finished: house.finishedOf(o.sensor.id), step: stepAt(o) }));
  const together = fellowsOf(mine, beside, step);
  return diagnose(
    healthFacts(past, timed, {
      ...said,
      siblings,
      sampleOff: sampleOffOf(mine, past, step),
      ...(together ? { fellows: together } : {}),
      slopeKnown: fitted.loop.family === 'ph',
    }),
    causesOf(fitted.loop.family),
  );
}

/** How far a zero has moved since a moment, mV; empty with fewer than two runs since. */
function movedSince(past: readonly PastRun[], sinceMs: number): HealthFigure[] {
  const since = past.filter((p) => p.atMs >= sinceMs - 7 * 86_400_000);
  const [first, last] = [since[0], since.at(-1)];
  if (!first || !last || first === last) return [];
  return [{ value: last.known.zero - first.known.zero, sd: Math.hypot(last.known.zeroSd, first.known.zeroSd) }];
}

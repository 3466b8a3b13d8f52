import {
  diagnose,
  familyOf,
  healthFacts,
  modelOf,
  type Diagnosis,
  type HealthFigure,
  type PastRun,
} from '@frustum/core';
import type { FittedLoop } from '../store/commands/places.ts';
import { ofSensor, type Past } from './history.ts';

/** A sensor with what it has been through. */
export interface Watched {
  readonly fitted: FittedLoop;
  readonly past: readonly PastRun[];
}

/** After these a sensor's earlier runs say nothing of its present halves. */
const BEGINS_ANEW = ['refilled', 'tip replaced', 'stored dry'];

/** An electrode with a reference of its own or a shared one: what the causes are written for. */
export function isElectrode({ loop }: FittedLoop): boolean {
  const { signalUnit } = modelOf(familyOf(loop.family), loop.settings);
  return signalUnit === 'mV';
}

/**
 * Which half of an electrode is failing, by its own runs and those of what shares its reference.
 *
 * @returns null for a sensor that is no electrode, or has no run yet
 */
export function healthOf(
  { fitted, past: all }: Watched,
  { finished, services }: Past,
  others: readonly Watched[],
): Diagnosis | null {
  // A refill or a new tip begins another story: what was before it is no evidence of wear.
  const sinceMs = services.findLast((s) => BEGINS_ANEW.includes(s.kind))?.atMs ?? 0;
  const past = all.filter((p) => p.atMs >= sinceMs);
  if (!isElectrode(fitted) || past.length === 0) return null;
  const timed = ofSensor(finished)
    .filter((r) => Date.parse(r.endedAt) >= sinceMs)
    .flatMap(({ outcome }) =>
      outcome.t90 ? [{ t90: outcome.t90, temperatureC: outcome.t90C ?? fitted.loop.workingC }] : [],
    );
  const group = fitted.loop.referenceGroup;
  const siblings = others.flatMap((o) =>
    group !== '' &&
    o.fitted.loop.referenceGroup === group &&
    o.fitted.sensor.id !== fitted.sensor.id &&
    isElectrode(o.fitted)
      ? movedSince(o.past, past[0]!.atMs)
      : [],
  );
  return diagnose(healthFacts(past, timed, null, siblings));
}

/** How far a zero has moved since a moment, mV; empty with fewer than two runs since. */
function movedSince(past: readonly PastRun[], sinceMs: number): HealthFigure[] {
  const since = past.filter((p) => p.atMs >= sinceMs - 7 * 86_400_000);
  const [first, last] = [since[0], since.at(-1)];
  if (!first || !last || first === last) return [];
  return [{ value: last.known.zero - first.known.zero, sd: Math.hypot(last.known.zeroSd, first.known.zeroSd) }];
}

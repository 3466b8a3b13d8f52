import { refusedForSensor } from '../calibration/refused.ts';
import type { ServiceEvent } from '../drift/history.ts';
import type { PastRun } from '../drift/past.ts';
import { familyOf } from '../families/registry.ts';
import { type Diagnosis, diagnose } from '../health/diagnose.ts';
import { type Checks, type Figure, type HealthFacts, healthFacts } from '../health/evidence.ts';
import { fellowsOf, sampleOffOf } from './checks.ts';
import type { Fitted } from './fitted.ts';
import { ofSensor, stepAt } from './history.ts';
import type { HouseKnowledge } from './house.ts';
import type { ServiceKind } from '../sensor/befalls.ts';
import { modelOf } from '../sensor/sensor.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';

/** What was done to a sensor since its last run, and waits to be tested. */
export interface Untested {
  readonly kinds: readonly ServiceKind[];
  readonly atMs: number;
}

/** What a service has told of the time before it. */
export interface ServiceSaid {
  /** all that was done between two runs */
  readonly kinds: readonly ServiceKind[];
  readonly atMs: number;
  /** the first run after it */
  readonly foundMs: number;
  readonly health: Diagnosis;
}

/** After these a sensor's earlier runs say nothing of its present halves. */
const BEGINS_ANEW: readonly ServiceKind[] = ['refilled', 'tip replaced', 'stored dry'];
/** These are tests as well: what they bring back was at fault. */
const TELLS: readonly ServiceKind[] = ['cleaned', 'refilled', 'plug dried', 'tip replaced'];
/** What it has brought back, or not, and from which push on that says anything. */
const AFTER: readonly string[] = ['zeroAfter', 'sensitivityAfter'];
const TOLD_ABOVE = 1;
/** What a service has told is news for so many runs. */
const NEWS_RUNS = 3;

/** An electrode, with a reference of its own or a shared one. */
export function isElectrode({ loop }: Fitted): boolean {
  const { signalUnit } = modelOf(familyOf(loop.family), loop.settings);
  return signalUnit === 'mV';
}

/** Runs that say what a sensor is: in standards, or against whatever else its family is held against. */
function runsIn(fitted: Fitted, house: HouseKnowledge): readonly PastRun[] {
  const inStandards = house.inStandards(fitted);
  return isElectrode(fitted) || inStandards.length ? inStandards : house.everyRunOf(fitted);
}

/**
 * Which half of a sensor is failing, by its own runs and those of what shares its reference or its bottles.
 *
 * @param said what readings and transmitter say now
 * @returns null for a family of which nothing is written, and before the first run
 */
export const healthOf = (fitted: Fitted, house: HouseKnowledge, said: Checks = {}): Diagnosis | null =>
  examined(fitted, house, said)?.health ?? null;

/** A diagnosis, and the facts that it rests on. */
export interface Examined {
  readonly facts: HealthFacts;
  readonly health: Diagnosis;
}

/** The same with the facts. */
export function examined(fitted: Fitted, house: HouseKnowledge, said: Checks = {}): Examined | null {
  const { services } = house.pastOf(fitted);
  // A refill or a new tip begins another story: what was before it is no evidence of wear.
  const sinceMs = services.findLast((s) => BEGINS_ANEW.includes(s.kind))?.atMs ?? 0;
  const past = runsIn(fitted, house).filter((p) => p.atMs >= sinceMs);
  return examinedBy(fitted, house, past, said);
}

/**
 * What the last service has told: what was wrong before it, now that the first run after it is known.
 *
 * @returns null where nothing was wrong, no run came after it, or it is no news any more
 */
export function serviceSaid(fitted: Fitted, house: HouseKnowledge): ServiceSaid | null {
  const { finished, services } = house.pastOf(fitted);
  const past = runsIn(fitted, house);
  // Where a run cleaned the sensor, what it found is what came after.
  const inRuns = ofSensor(finished)
    .filter((r) => r.outcome.cleaned)
    .map((r): ServiceEvent => ({ kind: 'cleaned', atMs: Date.parse(r.endedAt) }));
  const all = [...services.filter((s) => TELLS.includes(s.kind)), ...inRuns].sort((a, b) => a.atMs - b.atMs);
  const last = all.findLast((s) => past.some((p) => p.atMs >= s.atMs));
  if (!last) return null;
  const after = past.filter((p) => p.atMs >= last.atMs);
  if (after.length > NEWS_RUNS) return null;
  const endMs = past.findLast((p) => p.atMs < last.atMs)?.atMs ?? -Infinity;
  const fromMs = services.findLast((s) => BEGINS_ANEW.includes(s.kind) && s.atMs <= endMs)?.atMs ?? -Infinity;
  const before = past.filter((p) => p.atMs >= fromMs && p.atMs <= endMs);
  // What was done between the same two runs is one test.
  const done = all.filter((s) => s.atMs > endMs && s.atMs <= after[0]!.atMs);
  const kinds = [...new Set(done.map((s) => s.kind))];
  const health = examinedBy(fitted, house, before, { after: { kinds, found: after[0]!.found } })?.health;
  const tells = health?.evidence.some((e) => AFTER.includes(e.piece) && Math.abs(e.push) > TOLD_ABOVE);
  return health && tells && health.sound < 0.5 ? { kinds, atMs: done[0]!.atMs, foundMs: after[0]!.atMs, health } : null;
}

/** What was done to a sensor since its last run, and waits to be tested; null for nothing. */
export function untested(fitted: Fitted, house: HouseKnowledge): Untested | null {
  const { finished, services } = house.pastOf(fitted);
  const lastMs = Date.parse(ofSensor(finished).at(-1)?.endedAt ?? '');
  const since = services.filter((s) => s.atMs > lastMs && s.kind !== 'other');
  return since.length ? { kinds: [...new Set(since.map((s) => s.kind))], atMs: since[0]!.atMs } : null;
}

function examinedBy(fitted: Fitted, house: HouseKnowledge, past: readonly PastRun[], said: Checks): Examined | null {
  const befalls = familyOf(fitted.loop.family).befalls;
  const [first] = past;
  if (!first || !befalls) return null;
  const electrode = isElectrode(fitted);
  const step = stepAt(fitted);
  const endMs = past.at(-1)!.atMs;
  const mine = ofSensor(house.finishedOf(fitted.sensor.id)).filter((r) => Date.parse(r.endedAt) >= first.atMs);
  const within = mine.filter((r) => Date.parse(r.endedAt) <= endMs);
  const last = within.at(-1);
  const timed = within.flatMap(({ outcome }) =>
    outcome.t90 ? [{ t90: outcome.t90, temperatureC: outcome.t90C ?? fitted.loop.workingC }] : [],
  );
  const siblings = electrode
    ? house
        .onReferenceOf(fitted)
        .filter(isElectrode)
        .flatMap((o) => movedBetween(house.inStandards(o), first.atMs, endMs))
    : [];
  const beside = house.all
    .filter((o) => o.sensor.id !== fitted.sensor.id && o.loop.family === fitted.loop.family)
    .map((o) => ({ finished: house.finishedOf(o.sensor.id), step: stepAt(o) }));
  const together = fellowsOf(within, beside, step);
  const facts = healthFacts(past, timed, {
    ...said,
    siblings,
    // A grab sample of another family determines its sensitivity as well.
    sampleOff: electrode ? sampleOffOf(said.after ? within : mine, past, step) : null,
    ...(together ? { fellows: together } : {}),
    refused: last !== undefined && refusedForSensor(last.outcome, familyOf(fitted.loop.family).step.absolute),
    slopeKnown: befalls.slopeKnown,
    ...(electrode ? {} : { zeroUnit: step }),
  });
  return { facts, health: diagnose(facts, befalls) };
}

/** How far a zero has moved in a stretch of time, mV; empty with fewer than two runs in it. */
function movedBetween(past: readonly PastRun[], fromMs: number, toMs: number): Figure[] {
  const within = past.filter((p) => p.atMs >= fromMs - WEEK_MS && p.atMs <= toMs + WEEK_MS);
  const [first, last] = [within[0], within.at(-1)];
  if (!first || !last || first === last) return [];
  return [{ value: last.known.zero - first.known.zero, sd: Math.hypot(last.known.zeroSd, first.known.zeroSd) }];
}
const WEEK_MS = 7 * MS_PER_DAY;

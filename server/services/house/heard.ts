import {
  impedanceOf,
  ofSensor,
  type HealthChecks,
  type HealthFigure,
  type HouseKnowledge,
  type Past,
  type SensorId,
} from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { livelyOf, readingsSay } from '../sensors/readings-say.ts';

/** What a transmitter measured last of a sensor in the water, and what its readings said. */
interface Heard {
  impedance?: { readonly atMs: number; readonly said: HealthChecks };
  readings?: { readonly atMs: number; readonly said: HealthChecks };
  /** when the readings were asked last */
  askedMs?: number;
}

/** Kept while the application runs. */
const heard = new WeakMap<Context['hub'], Map<SensorId, Heard>>();

function heardOf(hub: Context['hub'], id: SensorId): Heard {
  const all = heard.get(hub) ?? new Map<SensorId, Heard>();
  heard.set(hub, all);
  const known = all.get(id) ?? {};
  all.set(id, known);
  return known;
}

/** When hands last did something to a sensor that another impedance may come of, epoch ms. */
const lastHandsMs = ({ services, finished }: Past) =>
  Math.max(
    ...services.filter((s) => s.kind !== 'other').map((s) => s.atMs),
    ...finished.filter((r) => r.outcome.cleaned).map((r) => Date.parse(r.endedAt)),
  );

/** When it was last out of its water, or hands did something to it: a grab sample leaves it where it is. */
const lastOutMs = (past: Past) =>
  Math.max(
    lastHandsMs(past),
    ...ofSensor(past.finished)
      .filter((r) => r.outcome.kind !== 'grab-sample')
      .map((r) => Date.parse(r.endedAt)),
  );

/**
 * What is known of a sensor in the water beside its runs: what the transmitter measures of membrane and reference, and how far
 * the reading, and that of its twins, has left what it usually is.
 *
 * While the sensor is at the bench, or its device is silent, it is what was heard last: a junction does not clear because a run
 * is begun. Hands at the sensor end that, and for readings a time at the bench as well.
 */
export function heardInWater(
  { hub, now }: Pick<Context, 'hub' | 'now'>,
  fitted: FittedLoop,
  past: Past,
  backMs: number,
): HealthChecks {
  const known = heardOf(hub, fitted.sensor.id);
  const said = impedanceOf(livelyOf(hub, fitted, backMs));
  if (said.membraneMohm || said.referenceKohm) known.impedance = { atMs: now(), said };
  const { impedance, readings } = known;
  return {
    ...(readings && readings.atMs > lastOutMs(past) ? readings.said : {}),
    ...(impedance && impedance.atMs > lastHandsMs(past) ? impedance.said : said),
  };
}

/** A reading that has moved by less than so many steps that count says the same. */
const SAME_STEPS = 2;
const alike = (a: HealthFigure | null | undefined, b: HealthFigure | null | undefined) =>
  a && b ? Math.abs(a.value - b.value) < SAME_STEPS && Math.max(a.sd, b.sd) < 2 * Math.min(a.sd, b.sd) : !a === !b;
const say = (was: HealthChecks, is: HealthChecks) =>
  alike(was.readingMoved, is.readingMoved) &&
  (was.twins ?? []).length === (is.twins ?? []).length &&
  (was.twins ?? []).every((t, i) => alike(t, is.twins![i]));

/** Readings are asked again after so long, ms: by the page that shows the sensor, and by itself. */
const ASKED_BY_PAGE_MS = 15_000;
const ASKED_MS = 10 * 60_000;
/** Of all sensors this share at a time, and a few at least: their readings of a week are looked at. */
const AT_A_TIME = 1 / 20;
const A_FEW = 3;
/** Not in the first moments after a start, when everybody asks, ms. */
const AFTER_START_MS = 60_000;
/** When it was first asked to hear some, epoch ms. */
const startedMs = new WeakMap<Context['hub'], number>();

/**
 * Hears what the readings of a sensor say now.
 *
 * @returns whether it is another thing than before, so that the picture changes, too
 */
export async function hearReadings(
  context: Context,
  fitted: FittedLoop,
  house: HouseKnowledge<FittedLoop>,
  afterMs = ASKED_BY_PAGE_MS,
): Promise<boolean> {
  const known = heardOf(context.hub, fitted.sensor.id);
  const nowMs = context.now();
  const { askedMs = -Infinity } = known;
  const stands = askedMs > lastOutMs(house.pastOf(fitted)) && askedMs <= nowMs;
  if (stands && nowMs - askedMs < afterMs) return false;
  known.askedMs = nowMs;
  const said = await readingsSay(context, fitted, house);
  // Silent, at the bench, or too new to have a usual course: what was heard last stands.
  if (!said.readingMoved) return false;
  const same = known.readings !== undefined && say(known.readings.said, said);
  known.readings = { atMs: nowMs, said: same ? known.readings!.said : said };
  return !same;
}

/** Hears those that were not asked for the longest, some at a time. @returns whether any of them says another thing */
export async function hearSome(context: Context, house: HouseKnowledge<FittedLoop>): Promise<boolean> {
  const nowMs = context.now();
  const fromMs = startedMs.get(context.hub) ?? nowMs;
  startedMs.set(context.hub, fromMs);
  if (Math.abs(nowMs - fromMs) < AFTER_START_MS) return false;
  const asked = (f: FittedLoop) => heardOf(context.hub, f.sensor.id).askedMs ?? -Infinity;
  const due = house.all
    // A clock that was put back makes no sensor wait for it.
    .filter((f) => nowMs - asked(f) >= ASKED_MS || asked(f) > nowMs)
    .sort((a, b) => asked(a) - asked(b))
    .slice(0, Math.max(A_FEW, Math.ceil(AT_A_TIME * house.all.length)));
  let other = false;
  for (const fitted of due) other = (await hearReadings(context, fitted, house, ASKED_MS)) || other;
  return other;
}

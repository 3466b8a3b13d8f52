import type { AlarmLevel } from './levels.ts';
import { median } from '../statistics/robust.ts';

/** Where the water of a loop should stay, and what else calls for somebody. All in the family's own unit. */
export interface AlarmLimits {
  /** beyond these somebody should know; null = not watched */
  readonly warnLow: number | null;
  readonly warnHigh: number | null;
  /** beyond these somebody must do something */
  readonly actLow: number | null;
  readonly actHigh: number | null;
  /** beyond for at least so long, min */
  readonly forMinutes: number;
  /** the usual course of the day is taken off before it is looked at */
  readonly daily: boolean;
  /** most that it may change within an hour; null = not watched */
  readonly perHour: number | null;
  /** not a step of change for so long, min; null = not watched */
  readonly frozenMinutes: number | null;
  /** nothing heard for so long, min; null = as usual */
  readonly silentMinutes: number | null;
}

/** Where nobody has asked for anything. */
export const NO_ALARM_LIMITS: AlarmLimits = {
  warnLow: null,
  warnHigh: null,
  actLow: null,
  actHigh: null,
  forMinutes: 10,
  daily: false,
  perHour: null,
  frozenMinutes: null,
  silentMinutes: null,
};

/** What a loop showed in a minute, in its own unit. */
export interface ShownMinute {
  readonly ms: number;
  readonly value: number;
}

/** One thing that the water does, or its channel does not. */
export interface WaterFinding {
  readonly kind: 'water' | 'rate' | 'frozen';
  readonly level: AlarmLevel;
  /** which side it is beyond; '' where there is none */
  readonly side: 'low' | 'high' | '';
  /** what is shown now, and the limit that it is beyond */
  readonly value: number;
  readonly limit: number;
  readonly sinceMs: number;
}

const MINUTE_MS = 60_000;
/** Minutes that are missing in between do not break a stretch that is shorter than this, min. Common practice, no source. */
const GAP_MINUTES = 15;
/** An alarm is over once the value is back by so much of the room between the limits: no flutter at the edge. Common practice, no source. */
const BACK_SHARE = 0.05;
/** What its usual course at this hour is known by, at least, minutes. */
const LEAST_USUAL = 20;

/** The course of a day: by how much each hour of it usually differs from the whole. Twenty-four figures, own unit. */
export type DailyCourse = readonly number[];

/** Hour of a day, by a fixed clock: the same hour of all days. */
const hourOf = (ms: number) => Math.floor((ms / 3_600_000) % 24);

/**
 * The usual course of a day: the median of each hour less the median of all of them; none of hours that are hardly known.
 *
 * @example dailyCourse([]).every((x) => x === 0) // 'true'
 */
export function dailyCourse(minutes: readonly ShownMinute[]): DailyCourse {
  const hours = Array.from({ length: 24 }, (): number[] => []);
  for (const { ms, value } of minutes) hours[hourOf(ms)]!.push(value);
  const known = hours.filter((h) => h.length >= LEAST_USUAL).map((h) => median(h));
  const whole = known.length ? median(known) : 0;
  return hours.map((h) => (h.length >= LEAST_USUAL ? median(h) - whole : 0));
}

/**
 * Limits as they are usual: the middle 99 % of what was shown, with half of its width as much room on both sides for warnings, and
 * as much again before somebody must act.
 *
 * @param minutes of the last days, without those at the bench
 * @param least room that is always left: a few of the loop's tolerances
 * @returns null where too little is known
 * @example proposedLimits([], 0.1) // null
 */
export function proposedLimits(
  minutes: readonly ShownMinute[],
  least: number,
): Pick<AlarmLimits, 'warnLow' | 'warnHigh' | 'actLow' | 'actHigh'> | null {
  if (minutes.length < LEAST_PROPOSED) return null;
  const sorted = minutes.map((m) => m.value).sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
  const [low, high] = [at(0.005), at(0.995)];
  const room = Math.max(least, (high - low) / 2);
  return { warnLow: low - room, warnHigh: high + room, actLow: low - 2 * room, actHigh: high + 2 * room };
}

/** Two hours of minutes say something of a usual range. Common practice, no source. */
const LEAST_PROPOSED = 120;

/**
 * What the water does that somebody asked to know.
 *
 * @param minutes of the last hours, oldest first, without those at the bench or in a cup
 * @param step of the channel, own unit: less than half of it is no change
 * @param standing findings that stand: `water high` or `water low`; they end a little inside their limit
 * @param usual course of the day; taken off where the limits ask for it
 * @example waterFindings({ ...NO_ALARM_LIMITS, warnHigh: 8.5, forMinutes: 0 }, [{ ms: 0, value: 8.6 }], 0.01, new Set())[0].side // 'high'
 */
export function waterFindings(
  limits: AlarmLimits,
  minutes: readonly ShownMinute[],
  step: number,
  standing: ReadonlySet<string>,
  usual: DailyCourse = [],
): readonly WaterFinding[] {
  const last = minutes.at(-1);
  if (!last) return [];
  const plain = limits.daily ? withoutCourse(minutes, usual) : minutes;
  // A limit that goes along with the day is told as it stands at this hour: beside what is shown.
  const by = limits.daily ? courseAt(usual, last.ms) : 0;
  return [
    ...beyond(limits, plain, last.value, standing).map((found) => ({ ...found, limit: found.limit + by })),
    ...tooFast(limits, minutes, step),
    ...frozen(limits, minutes, step),
  ];
}

/** The worst limit that is passed for long enough, on one side: one finding at most. */
function beyond(
  { warnLow, warnHigh, actLow, actHigh, forMinutes }: AlarmLimits,
  minutes: readonly ShownMinute[],
  shown: number,
  standing: ReadonlySet<string>,
): WaterFinding[] {
  const ends = [
    { side: 'low', sign: -1, warn: warnLow, act: actLow },
    { side: 'high', sign: 1, warn: warnHigh, act: actHigh },
  ] as const;
  const [low, high] = [warnLow ?? actLow, warnHigh ?? actHigh];
  const room = low !== null && high !== null ? BACK_SHARE * (high - low) : 0;
  const lastMs = minutes.at(-1)!.ms;
  for (const { side, sign, warn, act } of ends) {
    const since = (limit: number) => sinceWhen(minutes, ({ value }) => sign * (value - limit) > 0);
    const isLong = (sinceMs: number | null): sinceMs is number =>
      sinceMs !== null && lastMs - sinceMs >= forMinutes * MINUTE_MS;
    const acts = act === null ? null : since(act);
    if (act !== null && isLong(acts))
      return [{ kind: 'water', level: 'act', side, value: shown, limit: act, sinceMs: acts }];
    const inner = warn ?? act;
    if (inner === null) continue;
    const level = warn === null ? 'act' : 'warn';
    const out = since(inner);
    if (isLong(out)) return [{ kind: 'water', level, side, value: shown, limit: inner, sinceMs: out }];
    // What stands is over once the value is clearly inside again.
    const back = standing.has(`water ${side}`) ? since(inner - sign * room) : null;
    if (back !== null) return [{ kind: 'water', level, side, value: shown, limit: inner, sinceMs: back }];
  }
  return [];
}

/** Since when it is so without a break, as far as it is known; null = it is not so now. */
function sinceWhen(minutes: readonly ShownMinute[], isSo: (m: ShownMinute) => boolean): number | null {
  let since: number | null = null;
  for (let i = minutes.length - 1; i >= 0; i--) {
    const m = minutes[i]!;
    const next = minutes[i + 1];
    if (!isSo(m) || (next && next.ms - m.ms > GAP_MINUTES * MINUTE_MS)) break;
    since = m.ms;
  }
  return since;
}

/** The change over the last hour, by the means of its first and its last minutes. */
function tooFast({ perHour }: AlarmLimits, minutes: readonly ShownMinute[], step: number): WaterFinding[] {
  const last = minutes.at(-1)!;
  const hour = minutes.filter((m) => last.ms - m.ms <= 60 * MINUTE_MS);
  const first = hour[0]!;
  if (perHour === null || last.ms - first.ms < RATE_MINUTES * MINUTE_MS) return [];
  const mean = (list: readonly ShownMinute[]) => list.reduce((s, m) => s + m.value, 0) / list.length;
  const [from, to] = [hour.filter((m) => m.ms - first.ms < ENDS_MS), hour.filter((m) => last.ms - m.ms < ENDS_MS)];
  const change = mean(to) - mean(from);
  if (Math.abs(change) <= Math.max(perHour, step)) return [];
  return [{ kind: 'rate', level: 'warn', side: change < 0 ? 'low' : 'high', value: change, limit: perHour, sinceMs: first.ms }]; // prettier-ignore
}

/** A change is known once so much of the hour is over, min; its ends are means of so much, ms. */
const RATE_MINUTES = 20;
const ENDS_MS = 5 * MINUTE_MS;

/** Water is never still: a value that has not moved by half a step for long is not being measured. */
function frozen({ frozenMinutes }: AlarmLimits, minutes: readonly ShownMinute[], step: number): WaterFinding[] {
  const last = minutes.at(-1)!;
  if (frozenMinutes === null) return [];
  const sinceMs = sinceWhen(minutes, (m) => Math.abs(m.value - last.value) < step / 2);
  if (sinceMs === null || last.ms - sinceMs < frozenMinutes * MINUTE_MS) return [];
  return [{ kind: 'frozen', level: 'warn', side: '', value: last.value, limit: frozenMinutes, sinceMs }];
}

/**
 * How often somebody would have been called: stretches beyond the inner limits, each at least as long as asked.
 *
 * @example callsOf({ ...NO_ALARM_LIMITS, warnHigh: 8.5, forMinutes: 0 }, [{ ms: 0, value: 8.6 }, { ms: 60000, value: 8.4 }, { ms: 120000, value: 8.6 }]) // 2
 */
export function callsOf(limits: AlarmLimits, minutes: readonly ShownMinute[], usual: DailyCourse = []): number {
  const { warnLow, warnHigh, actLow, actHigh, forMinutes, daily } = limits;
  const [low, high] = [warnLow ?? actLow ?? -Infinity, warnHigh ?? actHigh ?? Infinity];
  let calls = 0;
  let since: number | null = null;
  let called = false;
  let before = -Infinity;
  for (const { ms, value } of minutes) {
    const plain = daily ? value - (usual[hourOf(ms)] ?? 0) : value;
    const out = plain < low || plain > high;
    if (!out || ms - before > GAP_MINUTES * MINUTE_MS) [since, called] = [null, false];
    if (out) since ??= ms;
    if (out && !called && ms - since! >= forMinutes * MINUTE_MS) {
      calls++;
      called = true;
    }
    before = ms;
  }
  return calls;
}

/** Minutes without the usual course of the day. */
export const withoutCourse = (minutes: readonly ShownMinute[], usual: DailyCourse): ShownMinute[] =>
  minutes.map((m) => ({ ...m, value: m.value - (usual[hourOf(m.ms)] ?? 0) }));

/**
 * What the usual course of the day adds at a moment.
 *
 * @example courseAt([], 0) // 0
 */
export const courseAt = (usual: DailyCourse, ms: number): number => usual[hourOf(ms)] ?? 0;

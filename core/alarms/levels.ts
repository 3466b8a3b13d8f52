/** What an alarm is about. */
export type AlarmKind =
  | 'hold'
  | 'in-cup'
  | 'water'
  | 'rate'
  | 'frozen'
  | 'margin'
  | 'limit'
  | 'health'
  | 'silent'
  | 'reference';

/** How urgent an alarm is, the least first. */
export const ALARM_LEVELS = ['note', 'warn', 'act', 'urgent'] as const;
export type AlarmLevel = (typeof ALARM_LEVELS)[number];

/** Ways on which alarms leave the house. */
export const MESSAGE_WAYS = ['webhook', 'mqtt', 'mail'] as const;
export type MessageWay = (typeof MESSAGE_WAYS)[number];

/** What each kind is worth where nothing else is said; a limit of the water says itself. */
const USUAL: Readonly<Record<AlarmKind, AlarmLevel>> = {
  // What controls the water is off, or blind, while somebody has left.
  hold: 'urgent',
  'in-cup': 'urgent',
  water: 'warn',
  rate: 'warn',
  frozen: 'warn',
  silent: 'warn',
  margin: 'note',
  limit: 'note',
  reference: 'note',
  health: 'note',
};

/**
 * How urgent an alarm is.
 *
 * @example levelOf('in-cup') // 'urgent'
 */
export const levelOf = (kind: AlarmKind): AlarmLevel => USUAL[kind];

/** Is a level at least as urgent as another? @example isAtLeast('act', 'warn') // 'true' */
export const isAtLeast = (level: AlarmLevel, least: AlarmLevel): boolean =>
  ALARM_LEVELS.indexOf(level) >= ALARM_LEVELS.indexOf(least);

/** When a way is taken. */
export interface WayRule {
  /** what is less urgent does not go there */
  readonly from: AlarmLevel;
  /** only what nobody has seen for so long, min; 0 = at once */
  readonly afterMinutes: number;
}

/** Hours in which only what cannot wait is told. */
export interface QuietHours {
  /** "22:00" and "07:00", by the clock of the site's zone; both alike = none */
  readonly from: string;
  readonly to: string;
  readonly timeZone: string;
  /** what goes all the same */
  readonly unless: AlarmLevel;
}

/** How alarms travel: once and for all of them. */
export interface TravelRules {
  readonly ways: Readonly<Record<MessageWay, WayRule>>;
  readonly quiet: QuietHours | null;
}

/** Everything at once on the ways that machines read; by mail what somebody should look at. */
export const USUAL_RULES: TravelRules = {
  ways: {
    webhook: { from: 'note', afterMinutes: 0 },
    mqtt: { from: 'note', afterMinutes: 0 },
    mail: { from: 'warn', afterMinutes: 0 },
  },
  quiet: null,
};

/** An alarm that stands, as far as its travels go. */
export interface Travelling {
  readonly level: AlarmLevel;
  /** since when it is told: it was raised, has become more urgent, or was snoozed until then */
  readonly sinceMs: number;
  /** somebody has seen it, or wants to hear of it later */
  readonly quiet: boolean;
  /** ways on which it has gone since */
  readonly told: readonly MessageWay[];
}

/**
 * The ways on which an alarm goes now.
 *
 * A seen or snoozed alarm goes no further. In quiet hours what is less urgent waits until their end; it is not told at all if it
 * is over or seen by then.
 *
 * @example waysNow({ level: 'urgent', sinceMs: 0, quiet: false, told: ['mail'] }, USUAL_RULES, 0).join() // 'webhook,mqtt'
 */
export function waysNow(
  { level, sinceMs, quiet, told }: Travelling,
  rules: TravelRules,
  nowMs: number,
): readonly MessageWay[] {
  if (quiet) return [];
  const night = rules.quiet;
  if (night && isQuiet(night, nowMs) && !isAtLeast(level, night.unless)) return [];
  return MESSAGE_WAYS.filter((way) => {
    const { from, afterMinutes } = rules.ways[way];
    return !told.includes(way) && isAtLeast(level, from) && nowMs - sinceMs >= 60_000 * afterMinutes;
  });
}

/** Minutes of the day, by the clock of a zone. */
function minutesIn(timeZone: string, ms: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).formatToParts(ms); // prettier-ignore
  const of = (type: 'hour' | 'minute') => Number(parts.find((p) => p.type === type)!.value);
  return 60 * of('hour') + of('minute');
}

const minutesOf = (clock: string) => {
  const [hours = 0, minutes = 0] = clock.split(':').map(Number);
  return 60 * hours + minutes;
};

/**
 * Is it a quiet hour?
 *
 * @example isQuiet({ from: '22:00', to: '07:00', timeZone: 'UTC', unless: 'act' }, Date.parse('2026-11-23T23:30:00Z')) // 'true'
 */
export function isQuiet({ from, to, timeZone }: QuietHours, nowMs: number): boolean {
  const [a, b] = [minutesOf(from), minutesOf(to)];
  if (a === b) return false;
  const now = minutesIn(timeZone, nowMs);
  return a < b ? now >= a && now < b : now >= a || now < b;
}

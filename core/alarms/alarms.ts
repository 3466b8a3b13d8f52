import type { Cause } from '../sensor/befalls.ts';
import type { Margin } from '../drift/margin.ts';
import { levelOf, type AlarmKind, type AlarmLevel } from './levels.ts';
import { waterWords, type WaterNow } from './water-words.ts';
import type { Diagnosis } from '../health/diagnose.ts';

/** What hands have left undone at a sensor. */
export interface HandsOn {
  readonly controls: string;
  /** how long what it controls has been on hold, s; 0 = it is not */
  readonly heldSeconds: number;
  /** how long it may be, min */
  readonly holdMinutes: number;
  /** the cup that its probe stands in; '' = none */
  readonly cup: string;
  /** how long nothing was done since it stands there, s */
  readonly idleSeconds: number;
}

/** Something that a person should know of; while its cause lasts there is one of it, however often it is looked for. */
export interface AlarmCause {
  /** the same cause has the same key: kind, whose it is, and what */
  readonly key: string;
  readonly kind: AlarmKind;
  readonly level: AlarmLevel;
  /** whose page shows more; null for a reference of several */
  readonly sensorId: string | null;
  /** a sentence: what, and what to do */
  readonly text: string;
}

/** A limit of practice that a run found passed. */
export interface BeyondLimit {
  readonly what: 'zero' | 'sensitivity' | 'response';
  /** "slope 83.7 % is below 85.0 %" */
  readonly text: string;
}

/** What is known of one loop. */
export interface LoopNow {
  readonly sensorId: string;
  readonly loopName: string;
  readonly siteId: string;
  readonly referenceGroup: string;
  readonly margin: Margin;
  /** null where nothing can be said */
  readonly health: Diagnosis | null;
  /** limits of practice that its last run found passed, whatever the cause; absent = none */
  readonly beyond?: readonly BeyondLimit[];
  /** how long nothing was heard from a channel that should speak, s; 0 = it speaks, or a person is its channel */
  readonly silentSeconds: number;
  /** the run that it is in; absent = none */
  readonly hands?: HandsOn;
  /** what its water does that somebody asked to know; absent = nothing, or it is not in its water */
  readonly water?: WaterNow;
  /** silence that is too long here, s; absent = as usual */
  readonly silentLimitSeconds?: number;
}

/** Chance of being outside at which the margin is near its end, and below which an alarm of it is over again. */
const NEAR_END = 0.05;
const OVER_BELOW = 0.03;
/** A cause that was named stays one until it is no likelier than this. */
const STILL = 0.35;
/** A channel that is silent for less is being plugged in. Common practice, no source. */
const SILENT_S = 120;
/** A dosing, heating or CO2 that stands still for longer is mostly felt by what lives there, min. Common practice, no source. */
export const USUAL_HOLD_MIN = 60;
/** A probe in a cup with nothing done for so long is forgotten there: the slowest tip has settled by then. Common practice, no source. */
const FORGOTTEN_S = 900;
/** Two sensors on one reference are suspected together from this chance each on. */
const SUSPECTED = 0.5;

/** What comes first: what does harm now, what misleads, what nobody sees, and what can be planned. */
const RANK: readonly ((alarm: Pick<AlarmCause, 'kind' | 'key' | 'level'>) => boolean)[] = [
  ({ kind }) => kind === 'hold' || kind === 'in-cup',
  ({ kind, level }) => kind === 'water' && level === 'act',
  ({ kind, key }) => kind === 'water' || (kind === 'margin' && key.endsWith(' outside')),
  ({ kind }) => ['silent', 'frozen', 'rate', 'reference'].includes(kind),
  ({ kind }) => kind === 'health',
];

/**
 * Alarms by consequence, the worst first: of two alike, the one whose loop controls something.
 *
 * @param controls what the loop of an alarm controls, '' for nothing
 */
export const alarmsByConsequence =
  <A extends Pick<AlarmCause, 'kind' | 'key' | 'level' | 'sensorId'>>(controls: (sensorId: string | null) => string) =>
  (a: A, b: A): number => {
    const rank = (alarm: A) => {
      const at = RANK.findIndex((fits) => fits(alarm));
      return at < 0 ? RANK.length : at;
    };
    const acts = (alarm: A) => Number(controls(alarm.sensorId) === '');
    return rank(a) - rank(b) || acts(a) - acts(b);
  };

/**
 * What somebody should know of a house now.
 *
 * @param standing keys of the alarms that stand: what stands is over only when its cause is clearly gone
 * @example causesNow([], new Set()) // []
 */
export function causesNow(loops: readonly LoopNow[], standing: ReadonlySet<string>): readonly AlarmCause[] {
  const suspected = suspectedReferences(loops);
  const shared = new Set([...suspected.values()].flat().map((l) => l.sensorId));
  const made = [
    ...loops.flatMap((loop) => ofLoop(loop, standing, shared.has(loop.sensorId))),
    ...ofReferences(suspected),
  ];
  return made.map((cause) => ({ level: levelOf(cause.kind), ...cause }));
}

/** A cause that is as urgent as its kind, unless it says so itself. */
type Unranked = Omit<AlarmCause, 'level'> & { readonly level?: AlarmLevel };

/** What hands have left undone. */
function ofHands({ sensorId, loopName }: Pick<LoopNow, 'sensorId' | 'loopName'>, hands: HandsOn): Unranked[] {
  const made: Unranked[] = [];
  if (hands.heldSeconds > 60 * hands.holdMinutes)
    made.push({
      key: `hold ${sensorId}`,
      kind: 'hold',
      sensorId,
      text: `${loopName}: ${hands.controls} has been on hold for more than ${hands.holdMinutes} min. Put the probe back in its water and release it.`,
    });
  if (hands.idleSeconds > FORGOTTEN_S)
    made.push({
      key: `in-cup ${sensorId}`,
      kind: 'in-cup',
      sensorId,
      text: `${loopName}: the probe stands in ${hands.cup}, and nothing has been done for a quarter of an hour. Go on with the run, or put it back in its water.`,
    });
  return made;
}

const ofWater = (sensorId: string, loopName: string, water: WaterNow, margin: Margin): Unranked[] =>
  water.findings.map((finding) => {
    const { kind, level, side } = finding;
    const key = [kind, sensorId, side].filter(Boolean).join(' ');
    return { key, kind, level, sensorId, text: waterWords(loopName, finding, water, margin) };
  });

const ofLimit = (sensorId: string, loopName: string, { what, text }: BeyondLimit): Unranked => ({
  key: `limit ${sensorId} ${what}`,
  kind: 'limit',
  sensorId,
  text: `${loopName}: ${text}. Clean it and test it again; if it stays so, plan a new one.`,
});

/** @param shared its reference is suspected as a whole: said once, of all that share it */
function ofLoop(
  {
    sensorId,
    loopName,
    margin,
    health,
    beyond = [],
    silentSeconds,
    silentLimitSeconds = SILENT_S,
    hands,
    water,
  }: LoopNow,
  standing: ReadonlySet<string>,
  shared: boolean,
): Unranked[] {
  const key = (kind: AlarmKind, what = '') => [kind, sensorId, what].filter(Boolean).join(' ');
  const made: Unranked[] = hands ? ofHands({ sensorId, loopName }, hands) : [];
  const outside = margin.state === 'outside';
  const chance = margin.chanceOutside ?? 0;
  // One of the two: what is outside is no longer near its end.
  if (outside)
    made.push({
      key: key('margin', 'outside'),
      kind: 'margin',
      level: 'warn',
      sensorId,
      text: `${loopName} is probably outside its tolerance. Take it to the bench, and look at what leaned on it.`,
    });
  else if (
    margin.state !== 'not known' &&
    (chance >= NEAR_END || (chance >= OVER_BELOW && standing.has(key('margin', 'near'))))
  )
    made.push({
      key: key('margin', 'near'),
      kind: 'margin',
      sensorId,
      text: `${loopName} is near the end of its margin. Plan a run.`,
    });
  made.push(...beyond.map((limit) => ofLimit(sensorId, loopName, limit)));
  const cause =
    health?.named ??
    health?.causes.find((c) => c.chance > STILL && standing.has(key('health', c.cause.id)))?.cause ??
    null;
  if (cause && !(shared && cause.moves === 'siblings'))
    made.push({
      key: key('health', cause.id),
      kind: 'health',
      sensorId,
      text: `${loopName}: probably ${besideOf(cause, health?.beside, ({ name }) => name)}. To do: ${besideOf(cause, health?.beside, ({ group }) => group)}.`,
    });
  if (water) made.push(...ofWater(sensorId, loopName, water, margin));
  if (silentSeconds >= silentLimitSeconds)
    made.push({
      key: key('silent'),
      kind: 'silent',
      sensorId,
      text: `${loopName} has been silent for minutes. Look at its device, its cable and its network.`,
    });
  return made;
}

/** Of a cause and of the one beside it, if there is one: "the ion tip is worn, and the reference electrolyte is diluted". */
const besideOf = (cause: Cause, beside: Cause | null | undefined, of: (cause: Cause) => string): string =>
  beside && beside !== cause && of(beside) !== of(cause) ? `${of(cause)}, and ${of(beside)}` : of(cause);

/** References that several sensors share and that are suspected in two of them, with whom they are suspected in. */
function suspectedReferences(loops: readonly LoopNow[]): ReadonlyMap<string, readonly LoopNow[]> {
  const groups = new Map<string, LoopNow[]>();
  for (const loop of loops)
    if (loop.referenceGroup && inReference(loop.health) > SUSPECTED) {
      const name = `${loop.siteId} ${loop.referenceGroup}`;
      groups.set(name, [...(groups.get(name) ?? []), loop]);
    }
  return new Map([...groups].filter(([, mine]) => mine.length >= 2));
}

const ofReferences = (suspected: ReadonlyMap<string, readonly LoopNow[]>): Unranked[] =>
  [...suspected].map(([name, mine]) => ({
    key: `reference ${name}`,
    kind: 'reference',
    sensorId: mine[0]!.sensorId,
    text: `The reference that ${mine.map((l) => l.loopName).join(', ')} share is suspected. Service it before any of them is adjusted.`,
  }));

/** Chance that what befell it sits in the reference. */
const inReference = (health: Diagnosis | null) =>
  (health?.explanations ?? []).reduce(
    (sum, { causes, chance }) => (causes.some((c) => c.moves === 'siblings') ? sum + chance : sum),
    0,
  );

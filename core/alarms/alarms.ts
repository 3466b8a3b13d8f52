import type { Margin } from '../drift/margin.ts';
import type { Diagnosis } from '../health/diagnose.ts';

export type AlarmKind = 'margin' | 'health' | 'silent' | 'reference';

/** Something that a person should know of; while its cause lasts there is one of it, however often it is looked for. */
export interface Cause {
  /** the same cause has the same key: kind, whose it is, and what */
  readonly key: string;
  readonly kind: AlarmKind;
  /** whose page shows more; null for a reference of several */
  readonly sensorId: string | null;
  /** a sentence: what, and what to do */
  readonly text: string;
}

/** What is known of one loop. */
export interface LoopNow {
  readonly sensorId: string;
  readonly loopName: string;
  readonly referenceGroup: string;
  readonly margin: Margin;
  /** null where nothing can be said */
  readonly health: Diagnosis | null;
  /** how long nothing was heard from a channel that should speak, s; 0 = it speaks, or a person is its channel */
  readonly silentSeconds: number;
}

/** Chance of being outside at which the margin is near its end, and below which an alarm of it is over again. */
const NEAR_END = 0.05;
const OVER_BELOW = 0.03;
/** A cause that was named stays one until it is no likelier than this. */
const STILL = 0.35;
/** A channel that is silent for less is being plugged in. Common practice, no source. */
const SILENT_S = 120;
/** Two sensors on one reference are suspected together from this chance each on. */
const SUSPECTED = 0.5;

/**
 * What somebody should know of a house now.
 *
 * @param standing keys of the alarms that stand: what stands is over only when its cause is clearly gone
 * @example causesNow([], new Set()) // []
 */
export function causesNow(loops: readonly LoopNow[], standing: ReadonlySet<string>): readonly Cause[] {
  const suspected = suspectedReferences(loops);
  const shared = new Set([...suspected.values()].flat().map((l) => l.sensorId));
  return [...loops.flatMap((loop) => ofLoop(loop, standing, shared.has(loop.sensorId))), ...ofReferences(suspected)];
}

/** @param shared its reference is suspected as a whole: said once, of all that share it */
function ofLoop(
  { sensorId, loopName, margin, health, silentSeconds }: LoopNow,
  standing: ReadonlySet<string>,
  shared: boolean,
): Cause[] {
  const made: Cause[] = [];
  const key = (kind: AlarmKind, what = '') => [kind, sensorId, what].filter(Boolean).join(' ');
  const outside = margin.state === 'outside';
  const chance = margin.chanceOutside ?? 0;
  // One of the two: what is outside is no longer near its end.
  if (outside)
    made.push({
      key: key('margin', 'outside'),
      kind: 'margin',
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
  const cause =
    health?.named ??
    health?.causes.find((c) => c.chance > STILL && standing.has(key('health', c.cause.id)))?.cause ??
    null;
  if (cause && !(shared && cause.moves === 'siblings'))
    made.push({
      key: key('health', cause.id),
      kind: 'health',
      sensorId,
      text: `${loopName}: probably ${cause.name}. To do: ${cause.group}.`,
    });
  if (silentSeconds >= SILENT_S)
    made.push({
      key: key('silent'),
      kind: 'silent',
      sensorId,
      text: `${loopName} has been silent for minutes. Look at its device, its cable and its network.`,
    });
  return made;
}

/** References that several sensors share and that are suspected in two of them, with whom they are suspected in. */
function suspectedReferences(loops: readonly LoopNow[]): ReadonlyMap<string, readonly LoopNow[]> {
  const groups = new Map<string, LoopNow[]>();
  for (const loop of loops)
    if (loop.referenceGroup && inReference(loop.health) > SUSPECTED)
      groups.set(loop.referenceGroup, [...(groups.get(loop.referenceGroup) ?? []), loop]);
  return new Map([...groups].filter(([, mine]) => mine.length >= 2));
}

const ofReferences = (suspected: ReadonlyMap<string, readonly LoopNow[]>): Cause[] =>
  [...suspected].map(([name, mine]) => ({
    key: `reference ${name}`,
    kind: 'reference',
    sensorId: mine[0]!.sensorId,
    text: `The reference that ${mine.map((l) => l.loopName).join(', ')} share is suspected. Service it before any of them is adjusted.`,
  }));

/** Chance that what befell it sits in the reference. */
const inReference = (health: Diagnosis | null) =>
  (health?.causes ?? []).reduce((sum, { cause, chance }) => (cause.moves === 'siblings' ? sum + chance : sum), 0);

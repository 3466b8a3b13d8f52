import { logSum } from '../statistics/chances.ts';
import type { Figure, HealthFacts } from './evidence.ts';
import type { Befalls, Cause, NextTest, Piece } from '../sensor/befalls.ts';
import { expectedBy, suspicionsOf, type Density, type Suspicion } from './explanations.ts';
import { separatingTest } from './next-test.ts';

/** One piece of evidence: what it is, and how far it pushes toward the leading cause. */
export interface Pushed {
  readonly piece: Piece | BesideKind | 'lastJumped' | 'cameBack' | 'refused' | 'zeroAfter' | 'sensitivityAfter';
  readonly figure: Figure;
  /** natural logarithm of how much likelier the leading cause makes it than all other explanations do; above 0 = toward it */
  readonly push: number;
}

/** Why too little is known: too few runs, or no cause is likelier than all others together. */
export type Thin =
  | { readonly code: 'few-runs'; readonly runs: number; readonly of: number }
  | { readonly code: 'no-leader' };

/** What the evidence comes to. */
export interface Diagnosis {
  /** chance that it is sound */
  readonly sound: number;
  /** causes, the likeliest first, each with its chance to be at work, alone or beside another */
  readonly causes: readonly { readonly cause: Cause; readonly chance: number }[];
  /** what excludes each other, the likeliest first: one cause, or two at once; together with `sound` they make 1 */
  readonly explanations: readonly { readonly causes: readonly Cause[]; readonly chance: number }[];
  /** the cause that is named: null for a sound sensor, and where too little is known to say */
  readonly named: Cause | null;
  /** a second one, where that is likelier than not as well */
  readonly beside: Cause | null;
  /** too little to say: what would be enough */
  readonly thin: Thin | null;
  /** evidence for and against the likeliest cause, the strongest first */
  readonly evidence: readonly Pushed[];
  /** the test that would separate the two leading explanations; null where nothing needs one */
  readonly test: NextTest | null;
}

const MIN_RUNS = 3;
/** Named when it is likelier than not, and being sound is not. */
const NAMED_ABOVE = 0.5;
/** What is less likely than this is no rival that a test should be made for. */
const MIN_RIVAL = 0.02;
/** A test is worth while from this chance of trouble on. */
const TESTED_ABOVE = 0.05;
/** What is compared side by side, and the mark of a cause that moves all alike. */
type BesideKind = 'siblings' | 'fellows' | 'twins';
/**
 * Moved by one cause, they differ by so much; each by itself goes so far: mV, steps, steps. Alike, so that where none has
 * moved nothing speaks for a cause. Common practice, no source.
 */
const BESIDE: Readonly<
  Record<BesideKind, { readonly together: number; readonly alone: number; readonly piece: Piece }>
> = {
  siblings: { together: 3.5, alone: 3.5, piece: 'zeroMoved' },
  fellows: { together: 5, alone: 5, piece: 'zeroMoved' },
  twins: { together: 4, alone: 4, piece: 'readingMoved' },
};
const BESIDES = Object.keys(BESIDE) as BesideKind[];

/** How often the last run shows a jump: where a cause comes at once, where it creeps, and in a sound sensor. Common practice, no source. */
const JUMPS = { sudden: 0.9, gradual: 0.1, sound: 0.03 };

/**
 * Two jumps that cancel are so much likelier where a bottle came and went than where something befell the sensor twice: a
 * jump in 0.9 of runs against one in 0.03 to 0.1, both times, and in one of seven the second happens to undo the first.
 */
const CAME_BACK_FOR_BOTTLE = 1000;

/**
 * How often an instrument refuses a calibration: of a sound sensor, by a slip at its keys, and where something is wrong with
 * sensor, wiring or bottle. Its limits are its own, and the figures that it refuses are evidence already: a light word. Common
 * practice, no source.
 */
const REFUSES = { sound: 0.05, trouble: 0.25 };
/** What an instrument does not see in its cups. */
const UNSEEN: readonly Cause['group'][] = ['nothing', 'look at the process'];

/** What a service brings back comes back to within this, and what it does not touch stays so: mV or steps, percent. Common practice, no source. */
const AFTER_SERVICE_SD = { zero: 3, sensitivity: 2 };

/**
 * Which half is failing: weighs causes against being sound and against each other, by all that a sensor's runs say.
 *
 * @param befalls what may befall sensors of its kind, and what a sound one shows
 * @example diagnose(healthFacts(pastOf(filtered(falling, phPrior), phPrior)), familyOf('ph').befalls).causes[0].cause.id // 'electrolyte-diluted'
 */
export function diagnose(facts: HealthFacts, befalls: Befalls): Diagnosis {
  const causes = befalls.causes.filter(({ needs }) => !needs || facts[needs]);
  const measured = measuredIn(facts, befalls.sound);
  const soundLog = Math.log(1 - causes.reduce((sum, c) => sum + c.prior, 0));
  const weighed = suspicionsOf({ ...befalls, causes }).map((suspicion) => {
    const pushes = measured.map((s) => s.push(suspicion.causes));
    return { ...suspicion, pushes, log: Math.log(suspicion.prior) + pushes.reduce((sum, p) => sum + p, 0) };
  });
  const total = logSum([soundLog, ...weighed.map((w) => w.log)]);
  const sound = Math.exp(soundLog - total);
  const explanations = weighed
    .map((w) => ({ causes: w.causes as readonly Cause[], chance: Math.exp(w.log - total) }))
    .sort((a, b) => b.chance - a.chance);
  const ranked = causes
    .map((cause) => ({ cause, chance: sum(explanations.filter((e) => e.causes.includes(cause))) }))
    .sort((a, b) => b.chance - a.chance);
  const [leader] = ranked;
  // What else it may be, and not what may be beside it.
  const rival = explanations.find((e) => leader && !e.causes.includes(leader.cause));
  const few = facts.runs < MIN_RUNS;
  const likely = few ? [] : ranked.filter((r) => r.chance > NAMED_ABOVE);
  const named = likely[0]?.cause ?? null;
  return {
    sound,
    causes: ranked,
    explanations,
    named,
    beside: likely[1]?.cause ?? null,
    thin: few
      ? { code: 'few-runs', runs: facts.runs, of: MIN_RUNS }
      : !named && sound < NAMED_ABOVE
        ? { code: 'no-leader' }
        : null,
    evidence: measured
      .map(({ piece, figure }, i) => ({ piece, figure, push: leader ? pushOf(leader.cause, weighed, soundLog, i) : 0 }))
      .filter((p) => Math.abs(p.push) > MIN_PUSH)
      .sort((a, b) => Math.abs(b.push) - Math.abs(a.push)),
    test:
      few || !leader || 1 - sound < TESTED_ABOVE || (leader.cause.undone && facts.cameBack > NAMED_ABOVE)
        ? // A second bottle undid what this one did: that was the test.
          null
        : separatingTest(
            leader.cause,
            rival && rival.chance > Math.max(sound, MIN_RIVAL) ? rival.causes[0]! : null,
            facts.sampleOff !== null && leader.chance > NAMED_ABOVE,
          ),
  };
}

const sum = (list: readonly { readonly chance: number }[]) => list.reduce((all, { chance }) => all + chance, 0);

/** Suspicions as they are weighed: with what each piece of evidence pushes. */
type Weighed = Suspicion & { readonly pushes: readonly number[]; readonly log: number };

/** What a piece adds for a cause, all others being known: all else weighs as much as those leave it. */
function pushOf(leader: Cause, weighed: readonly Weighed[], soundLog: number, piece: number): number {
  const has = (w: Weighed) => (w.causes as readonly Cause[]).includes(leader);
  const [mine, others] = [weighed.filter(has), weighed.filter((w) => !has(w))];
  const withIt = (list: readonly Weighed[]) => list.map((w) => w.log);
  const without = (list: readonly Weighed[]) => list.map((w) => w.log - w.pushes[piece]!);
  const of = (logs: (list: readonly Weighed[]) => number[]) => logSum(logs(mine)) - logSum([soundLog, ...logs(others)]);
  return of(withIt) - of(without);
}

/** Smaller pushes are not worth a line. */
const MIN_PUSH = 0.1;

/** A piece of evidence, and how far it pushes toward a suspicion, against being sound. */
interface Seen {
  readonly piece: Pushed['piece'];
  readonly figure: Figure;
  readonly push: (causes: readonly Cause[]) => number;
}

/** All that is known, in the order in which it is asked. */
function measuredIn(facts: HealthFacts, sound: Befalls['sound']): readonly Seen[] {
  const { cameBack, lastJumped } = facts;
  const own = (Object.keys(sound) as Piece[]).flatMap((piece): Seen[] => {
    const figure = facts[piece];
    if (!figure) return [];
    const soundly = logOf(figure, [sound[piece]]);
    const over = (causes: readonly Cause[]) => {
      const expected =
        expectedBy(causes, piece, sound[piece]) ?? (piece === 'sensitivity' ? whatIsLeft(causes, facts, sound) : null);
      return expected ? logOf(figure, expected) - soundly : 0;
    };
    const push = (causes: readonly Cause[]) => {
      if (!cameBack || !causes.some((c) => c.undone)) return over(causes);
      // What came and went has left a sensor as it was without it.
      return (1 - cameBack) * over(causes) + cameBack * over(causes.filter((c) => !c.undone));
    };
    return [{ piece, figure, push }];
  });
  const jumps = (chance: number) => Math.log(lastJumped * chance + (1 - lastJumped) * (1 - chance));
  const jumped: Seen = {
    piece: 'lastJumped',
    figure: { value: lastJumped, sd: 0 },
    push: (causes) => jumps(causes.some((c) => c.sudden) ? JUMPS.sudden : JUMPS.gradual) - jumps(JUMPS.sound),
  };
  const back: Seen = {
    piece: 'cameBack',
    figure: { value: cameBack, sd: 0 },
    push: (causes) => (causes.some((c) => c.undone) ? Math.log(1 + cameBack * (CAME_BACK_FOR_BOTTLE - 1)) : 0),
  };
  const refused: Seen = {
    piece: 'refused',
    figure: { value: 1, sd: 0 },
    push: (causes) => (causes.every((c) => UNSEEN.includes(c.group)) ? 0 : Math.log(REFUSES.trouble / REFUSES.sound)),
  };
  return [
    ...own,
    ...seenBeside(facts, sound),
    jumped,
    back,
    ...(facts.refused ? [refused] : []),
    ...afterService(facts),
  ];
}

/**
 * The slope where a cause says how much of it goes, and not what it leaves: what a sound one has, less what was lost. One loss is
 * not counted twice.
 */
function whatIsLeft(causes: readonly Cause[], { sensitivityLost: lost }: HealthFacts, sound: Befalls['sound']) {
  if (!lost || !causes.some((c) => c.expects.sensitivityLost)) return null;
  const { mean, sd } = sound.sensitivity;
  return [{ mean: mean - (lost.value - sound.sensitivityLost.mean), sd }];
}

/** What others beside it say: moved by one cause they move as this sensor does, otherwise each by itself. */
function seenBeside(facts: HealthFacts, sound: Befalls['sound']): readonly Seen[] {
  return BESIDES.flatMap((kind) =>
    facts[kind].others.map((figure): Seen => {
      const { mine } = facts[kind];
      const { together, alone } = BESIDE[kind];
      const apart = logOf(figure, [{ mean: 0, sd: alone }]);
      const push = (causes: readonly Cause[]) => {
        if (!causes.some((c) => c.moves === kind)) return 0;
        // What another cause has done to this sensor it has not done to them.
        const own = causes.filter((c) => c.moves !== kind).map((c) => c.expects[BESIDE[kind].piece]);
        const [more] = own.map((e) => (e ? Math.hypot(e.mean - sound[BESIDE[kind].piece].mean, e.sd) : 0));
        return logOf(figure, [{ mean: mine.value, sd: Math.hypot(together, mine.sd, more ?? 0) }]) - apart;
      };
      return { piece: kind, figure, push };
    }),
  );
}

/** What a service has changed: what it cures goes back by as far as it had moved, all else stays where it was. */
function afterService({ treated, zeroMoved, sensitivityLost }: HealthFacts): readonly Seen[] {
  if (!treated) return [];
  const by = (kinds: Cause['curedBy']) => kinds?.some((k) => treated.kinds.includes(k)) ?? false;
  const pieces = [
    { piece: 'zeroAfter', of: 'zeroMoved', figure: treated.zero, moved: zeroMoved, sd: AFTER_SERVICE_SD.zero },
    {
      piece: 'sensitivityAfter',
      of: 'sensitivityLost',
      figure: treated.sensitivity,
      moved: sensitivityLost && { value: -sensitivityLost.value, sd: sensitivityLost.sd },
      sd: AFTER_SERVICE_SD.sensitivity,
    },
  ] as const;
  return pieces.flatMap(({ piece, of, figure, moved, sd }): Seen[] => {
    if (!moved) return [];
    const stayed = logOf(figure, [{ mean: 0, sd }]);
    const cured = logOf(figure, [{ mean: -moved.value, sd: Math.hypot(sd, moved.sd) }]) - stayed;
    // Any part of it, one as likely as another: a mean of a half, and the spread of a uniform share.
    const part = { mean: -moved.value / 2, sd: Math.hypot(sd, moved.sd, moved.value / Math.sqrt(12)) };
    const partly = logOf(figure, [part]) - stayed;
    const push = (causes: readonly Cause[]) => {
      // Of two causes those count that have moved this figure.
      const moving = causes.filter((c) => c.expects[of]);
      const mine = moving.length ? moving : causes;
      if (mine.every((c) => by(c.curedBy))) return cured;
      return mine.some((c) => by(c.curedBy) || by(c.partlyCuredBy)) ? partly : 0;
    };
    return [{ piece, figure, push }];
  });
}

/** Logarithm of the likelihood of a figure, of densities that are each as likely. */
const logOf = ({ value, sd }: Figure, densities: readonly Density[]) => {
  const about = (d: Density) => {
    const spread = Math.hypot(sd, d.sd);
    return -0.5 * ((value - d.mean) / spread) ** 2 - Math.log(spread);
  };
  return densities.length === 1 ? about(densities[0]!) : logSum(densities.map(about)) - Math.log(densities.length);
};

import { logSum } from '../statistics/chances.ts';
import type { Figure, HealthFacts } from './evidence.ts';
import type { Befalls, Cause, Expected, NextTest, Piece } from '../sensor/befalls.ts';
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
  /** causes, the likeliest first; together with `sound` they make 1 */
  readonly causes: readonly { readonly cause: Cause; readonly chance: number }[];
  /** the cause that is named: null for a sound sensor, and where too little is known to say */
  readonly named: Cause | null;
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
const BESIDE: Readonly<Record<BesideKind, { readonly together: number; readonly alone: number }>> = {
  siblings: { together: 3.5, alone: 3.5 },
  fellows: { together: 5, alone: 5 },
  twins: { together: 4, alone: 4 },
};
const BESIDES = Object.keys(BESIDE) as BesideKind[];

/** How often the last run shows a jump: where a cause comes at once, where it creeps, and in a sound sensor. Common practice, no source. */
const JUMPS = { sudden: 0.9, gradual: 0.06, sound: 0.03 };

/**
 * Two jumps that cancel are so much likelier where a bottle came and went than where something befell the sensor twice: a
 * jump in 0.9 of runs against one in 0.03 to 0.06, both times, and in one of seven the second happens to undo the first.
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
  const weighed = causes.map((cause) => {
    const pushes = measured.map((s) => s.push(cause));
    return { cause, pushes, log: Math.log(cause.prior) + pushes.reduce((sum, p) => sum + p, 0) };
  });
  const total = logSum([soundLog, ...weighed.map((w) => w.log)]);
  const sound = Math.exp(soundLog - total);
  const ranked = weighed.sort((a, b) => b.log - a.log);
  const chanceOf = ({ log }: { readonly log: number }) => Math.exp(log - total);
  const [leader, second] = ranked;
  const few = facts.runs < MIN_RUNS;
  const named = !few && leader && chanceOf(leader) > NAMED_ABOVE ? leader.cause : null;
  return {
    sound,
    causes: ranked.map((w) => ({ cause: w.cause, chance: chanceOf(w) })),
    named,
    thin: few
      ? { code: 'few-runs', runs: facts.runs, of: MIN_RUNS }
      : !named && sound < NAMED_ABOVE
        ? { code: 'no-leader' }
        : null,
    evidence: measured
      .map(({ piece, figure }, i) => {
        // What this piece adds, all others being known: all other explanations weigh as much as those leave them.
        const others = ranked.filter((w) => w !== leader);
        const without = logSum([soundLog, ...others.map((w) => w.log - w.pushes[i]!)]);
        const withIt = logSum([soundLog, ...others.map((w) => w.log)]);
        return { piece, figure, push: (leader?.pushes[i] ?? 0) - (withIt - without) };
      })
      .filter((p) => Math.abs(p.push) > MIN_PUSH)
      .sort((a, b) => Math.abs(b.push) - Math.abs(a.push)),
    test:
      few || !leader || 1 - sound < TESTED_ABOVE || (leader.cause.undone && facts.cameBack > NAMED_ABOVE)
        ? // A second bottle undid what this one did: that was the test.
          null
        : separatingTest(
            leader.cause,
            second && chanceOf(second) > Math.max(sound, MIN_RIVAL) ? second.cause : null,
            facts.sampleOff !== null && chanceOf(leader) > NAMED_ABOVE,
          ),
  };
}

/** Smaller pushes are not worth a line. */
const MIN_PUSH = 0.1;

/** A piece of evidence, and how far it pushes toward a cause, against being sound. */
interface Seen {
  readonly piece: Pushed['piece'];
  readonly figure: Figure;
  readonly push: (cause: Cause) => number;
}

/** All that is known, in the order in which it is asked. */
function measuredIn(facts: HealthFacts, sound: Befalls['sound']): readonly Seen[] {
  const { cameBack, lastJumped } = facts;
  const own = (Object.keys(sound) as Piece[]).flatMap((piece): Seen[] => {
    const figure = facts[piece];
    if (!figure) return [];
    const push = ({ expects: { [piece]: expected }, undone }: Cause) => {
      if (!expected) return 0;
      const over = logOf(figure, expected) - logOf(figure, sound[piece]);
      // What came and went has left a sensor like a sound one.
      return undone ? (1 - cameBack) * over : over;
    };
    return [{ piece, figure, push }];
  });
  const beside = BESIDES.flatMap((kind) =>
    facts[kind].others.map((figure): Seen => {
      const { mine } = facts[kind];
      const { together, alone } = BESIDE[kind];
      // If one cause acts on all of them, they move as this sensor does; otherwise each moves by itself.
      const alike = logOf(figure, { mean: mine.value, sd: Math.hypot(together, mine.sd) });
      const apart = logOf(figure, { mean: 0, sd: alone });
      return { piece: kind, figure, push: ({ moves }) => (moves === kind ? alike - apart : 0) };
    }),
  );
  const jumps = (chance: number) => Math.log(lastJumped * chance + (1 - lastJumped) * (1 - chance));
  const jumped: Seen = {
    piece: 'lastJumped',
    figure: { value: lastJumped, sd: 0 },
    push: ({ sudden }) => jumps(sudden ? JUMPS.sudden : JUMPS.gradual) - jumps(JUMPS.sound),
  };
  const back: Seen = {
    piece: 'cameBack',
    figure: { value: cameBack, sd: 0 },
    push: ({ undone }) => (undone ? Math.log(1 + cameBack * (CAME_BACK_FOR_BOTTLE - 1)) : 0),
  };
  const refused: Seen = {
    piece: 'refused',
    figure: { value: 1, sd: 0 },
    push: ({ group }) => (UNSEEN.includes(group) ? 0 : Math.log(REFUSES.trouble / REFUSES.sound)),
  };
  return [...own, ...beside, jumped, back, ...(facts.refused ? [refused] : []), ...afterService(facts)];
}

/** What a service has changed: what it cures goes back by as far as it had moved, all else stays where it was. */
function afterService({ treated, zeroMoved, sensitivityLost }: HealthFacts): readonly Seen[] {
  if (!treated) return [];
  const by = (kinds: Cause['curedBy']) => kinds?.some((k) => treated.kinds.includes(k)) ?? false;
  const pieces = [
    { piece: 'zeroAfter', figure: treated.zero, moved: zeroMoved, sd: AFTER_SERVICE_SD.zero },
    {
      piece: 'sensitivityAfter',
      figure: treated.sensitivity,
      moved: sensitivityLost && { value: -sensitivityLost.value, sd: sensitivityLost.sd },
      sd: AFTER_SERVICE_SD.sensitivity,
    },
  ] as const;
  return pieces.flatMap(({ piece, figure, moved, sd }): Seen[] => {
    if (!moved) return [];
    const cured = logOf(figure, { mean: -moved.value, sd: Math.hypot(sd, moved.sd) });
    const stayed = logOf(figure, { mean: 0, sd });
    // Any part of it, one as likely as another: a mean of a half, and the spread of a uniform share.
    const partly = logOf(figure, { mean: -moved.value / 2, sd: Math.hypot(sd, moved.sd, moved.value / Math.sqrt(12)) });
    return [
      {
        piece,
        figure,
        push: ({ curedBy, partlyCuredBy }) => (by(curedBy) ? cured - stayed : by(partlyCuredBy) ? partly - stayed : 0),
      },
    ];
  });
}

const logOf = ({ value, sd }: Figure, expected: Expected) => {
  const spread = Math.hypot(sd, expected.sd);
  const about = (mean: number) => -0.5 * ((value - mean) / spread) ** 2 - Math.log(spread);
  return expected.either ? logSum([about(expected.mean), about(-expected.mean)]) - Math.LN2 : about(expected.mean);
};

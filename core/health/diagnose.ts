import type { Figure, HealthFacts } from './evidence.ts';
import { OF_ELECTRODES, SOUND, type Cause, type Expected, type Piece } from './hypotheses.ts';
import { separatingTest, type NextTest } from './next-test.ts';

/** One piece of evidence: what it is, and how far it pushes toward the leading cause. */
export interface Pushed {
  readonly piece: Piece | 'siblings' | 'lastJumped';
  readonly figure: Figure;
  /** natural logarithm of how much likelier the leading cause makes it than a sound sensor does; above 0 = toward the cause */
  readonly push: number;
}

/** What the evidence comes to. */
export interface Diagnosis {
  /** chance that it is sound */
  readonly sound: number;
  /** causes, the likeliest first; together with `sound` they make 1 */
  readonly causes: readonly { readonly cause: Cause; readonly chance: number }[];
  /** the cause that is named: null for a sound sensor, and where too little is known to say */
  readonly named: Cause | null;
  /** too little to say: what would be enough */
  readonly thin: string | null;
  /** evidence against being sound, for the likeliest cause, the strongest first */
  readonly evidence: readonly Pushed[];
  /** the test that would separate the two leading explanations; null where nothing needs one */
  readonly test: NextTest | null;
}

const LEAST_RUNS = 3;
/** Named when it is likelier than not, and being sound is not. */
const NAMED_ABOVE = 0.5;
/** A test is worth while from this chance of trouble on. */
const TESTED_ABOVE = 0.15;
/** What shares a reference moves with it within this, mV; and by itself by so much. Common practice, no source. */
const TOGETHER_MV = 2.5;
const ALONE_MV = 4;

/** How often the last run shows a jump: where a cause comes at once, where it creeps, and in a sound sensor. Common practice, no source. */
const JUMPS = { sudden: 0.9, gradual: 0.06, sound: 0.03 };

const PIECES: readonly Piece[] = ['zeroMoved', 'sensitivityLost', 'sensitivity', 'slower', 'sampleOff'];

/**
 * Which half is failing: weighs causes against being sound and against each other, by all that a sensor's runs say.
 *
 * @param causes what may befall sensors of its kind
 */
export function diagnose(facts: HealthFacts, causes: readonly Cause[] = OF_ELECTRODES): Diagnosis {
  const priorSound = 1 - causes.reduce((sum, c) => sum + c.prior, 0);
  const made = causes.map((cause) => ({ cause, pushes: pushesOf(facts, cause) }));
  const logs = made.map(({ cause, pushes }) => Math.log(cause.prior) + pushes.reduce((sum, p) => sum + p.push, 0));
  const top = Math.max(Math.log(priorSound), ...logs);
  const total = Math.exp(Math.log(priorSound) - top) + logs.reduce((sum, l) => sum + Math.exp(l - top), 0);
  const sound = Math.exp(Math.log(priorSound) - top) / total;
  const ranked = made
    .map(({ cause, pushes }, i) => ({ cause, pushes, chance: Math.exp(logs[i]! - top) / total }))
    .sort((a, b) => b.chance - a.chance);
  const [leader, second] = ranked;
  const few = facts.runs < LEAST_RUNS;
  const named = !few && leader && leader.chance > NAMED_ABOVE ? leader.cause : null;
  return {
    sound,
    causes: ranked.map(({ cause, chance }) => ({ cause, chance })),
    named,
    thin: few
      ? `Not enough to say: ${facts.runs} of ${LEAST_RUNS} runs.`
      : !named && sound < NAMED_ABOVE
        ? 'Not enough to say which: no cause is likelier than all others together.'
        : null,
    evidence: (leader?.pushes ?? [])
      .filter((p) => Math.abs(p.push) > 0.05)
      .sort((a, b) => Math.abs(b.push) - Math.abs(a.push)),
    test:
      few || !leader || 1 - sound < TESTED_ABOVE
        ? null
        : separatingTest(leader.cause, second && second.chance > sound ? second.cause : null),
  };
}

/** How far each piece pushes toward a cause, against being sound. */
function pushesOf(facts: HealthFacts, cause: Cause): readonly Pushed[] {
  const pushes: Pushed[] = PIECES.flatMap((piece) => {
    const figure = facts[piece];
    const expected = cause.expects[piece];
    return figure && expected ? [{ piece, figure, push: logOf(figure, expected) - logOf(figure, SOUND[piece]) }] : [];
  });
  for (const figure of facts.siblings) {
    // In the reference, they move as this one does; otherwise each goes its own way.
    const together = logOf(figure, { mean: facts.zeroMoved.value, sd: Math.hypot(TOGETHER_MV, facts.zeroMoved.sd) });
    const alone = logOf(figure, { mean: 0, sd: ALONE_MV });
    pushes.push({ piece: 'siblings', figure, push: cause.inReference ? together - alone : 0 });
  }
  const { lastJumped } = facts;
  const seen = (chance: number) => lastJumped * chance + (1 - lastJumped) * (1 - chance);
  const push = Math.log(seen(cause.sudden ? JUMPS.sudden : JUMPS.gradual) / seen(JUMPS.sound));
  pushes.push({ piece: 'lastJumped', figure: { value: lastJumped, sd: 0 }, push });
  return pushes;
}

const logOf = ({ value, sd }: Figure, expected: Expected) => {
  const spread = Math.hypot(sd, expected.sd);
  return -0.5 * ((value - expected.mean) / spread) ** 2 - Math.log(spread);
};

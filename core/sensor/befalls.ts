/** What is done to a sensor outside of a run. */
export const SERVICE_KINDS = ['cleaned', 'refilled', 'plug dried', 'tip replaced', 'stored dry', 'other'] as const;
export type ServiceKind = (typeof SERVICE_KINDS)[number];

/** A test that tells two explanations apart, and what its outcomes would mean. */
export interface NextTest {
  readonly what: string;
  /** the procedure that starts it */
  readonly procedure: 'buffers' | 'sample';
  /** what is done to the sensor before it; null for nothing */
  readonly service: ServiceKind | null;
  readonly outcomes: readonly string[];
}

/** A density of one piece of evidence: normal, about a mean; about the mean on either side of nothing, where it may go both ways. */
export interface Expected {
  readonly mean: number;
  readonly sd: number;
  /** as likely about −mean */
  readonly either?: boolean;
}

/** The pieces of evidence that a hypothesis may have an opinion of. */
export type Piece =
  | 'zeroMoved'
  | 'sensitivityLost'
  | 'sensitivity'
  | 'slower'
  | 'sampleOff'
  | 'readingMoved'
  | 'membrane'
  | 'reference';

/** What somebody does about it. */
export type ActionGroup =
  | 'nothing'
  | 'service the reference'
  | 'clean it'
  | 'replace the sensor'
  | 'renew cap and electrolyte'
  | 'renew the cap'
  | 'replace the standard'
  | 'look at the process'
  | 'look at the wiring'
  | 'check the thermometer'
  | 'look closer';

/**
 * One cause. What it says of a piece of evidence is a normal density; of what it does not name it says what a sound sensor
 * says. All figures are common practice without a source.
 */
export interface Cause {
  readonly id: string;
  readonly name: string;
  /** share of sensors in service that have it at a moment: what is believed before anything speaks for it */
  readonly prior: number;
  readonly group: ActionGroup;
  readonly expects: Partial<Record<Piece, Expected>>;
  /** what would tell it from others */
  readonly test: NextTest;
  /**
   * it moves others alike: those on the same reference (`siblings`), those that were in the same bottle (`fellows`), those in
   * the same water (`twins`)
   */
  readonly moves?: 'siblings' | 'fellows' | 'twins';
  /** causes that are cheaper to rule out: where one of them is the other explanation, its test comes first */
  readonly after?: readonly string[];
  /** without this piece nobody would think of it */
  readonly needs?: Piece;
  /** it takes what fits none of the others: never beside one of them */
  readonly alone?: true;
  /** it comes from one run to the next */
  readonly sudden?: boolean;
  /** standards do not show it: at work it is there beyond what runs in them find (`sampleOff`) */
  readonly unseen?: true;
  /** another bottle undoes it */
  readonly undone?: boolean;
  /** after these services zero and sensitivity are again what they were */
  readonly curedBy?: readonly ServiceKind[];
  /** after these they come back by any part of it, or not at all */
  readonly partlyCuredBy?: readonly ServiceKind[];
}

/** Changes that happen to sensors of one make, and the readings of a sound sensor. */
export interface Befalls {
  /** a new one has a slope near 100 %, so that the slope itself speaks, and not only what was lost of it */
  readonly slopeKnown: boolean;
  readonly sound: Readonly<Record<Piece, Expected>>;
  readonly causes: readonly Cause[];
  /** of sensors with any trouble, the share that has two at once; absent = see `PAIRS` */
  readonly pairs?: number;
}

/**
 * Of sensors with any trouble so many have two at once: what old ones share, and what neglect brings. Common practice, no
 * source.
 */
export const PAIRS = 0.08;

import type { ServiceEvent } from '../drift/history.ts';
import type { NextTest } from '../health/next-test.ts';

/** A density of one piece of evidence: normal, about a mean; about the mean on either side of nothing, where it may go both ways. */
export interface Expected {
  readonly mean: number;
  readonly sd: number;
  /** as likely about −mean */
  readonly either?: boolean;
}

/** The pieces of evidence that a hypothesis may have an opinion of. */
export type Piece =
  'zeroMoved' | 'sensitivityLost' | 'sensitivity' | 'slower' | 'sampleOff' | 'readingMoved' | 'membrane' | 'reference';

/** What somebody does about it. */
export type ActionGroup =
  | 'nothing'
  | 'service the reference'
  | 'clean it'
  | 'replace the sensor'
  | 'renew cap and electrolyte'
  | 'replace the standard'
  | 'look at the process'
  | 'look at the wiring';

/**
 * One cause. What it says of a piece of evidence is a normal density; of what it does not name it says what a sound sensor
 * says. All figures are common practice without a source.
 */
export interface Cause {
  readonly id: string;
  readonly name: string;
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
  /** families that it befalls; absent = every electrode */
  readonly families?: readonly string[];
  /** without this piece nobody would think of it */
  readonly needs?: Piece;
  /** it comes from one run to the next */
  readonly sudden?: boolean;
  /** another bottle undoes it */
  readonly undone?: boolean;
  /** after these services zero and sensitivity are again what they were */
  readonly curedBy?: readonly ServiceEvent['kind'][];
  /** after these they come back by any part of it, or not at all */
  readonly partlyCuredBy?: readonly ServiceEvent['kind'][];
}

/** What befalls sensors of one make, and what a sound one shows. */
export interface Befalls {
  readonly sound: Readonly<Record<Piece, Expected>>;
  readonly causes: readonly Cause[];
}

import type { Odd, OddFacts, OddId } from '../calibration/odd.ts';

/** What the operator is asked: what it looks like, with the facts of it. Its sentences are made where it is shown (`sentences.ts`). */
export type Warning = Odd & {
  /** nothing is captured until it is answered; a warning that does not stop is shown beside the reading */
  readonly stops: boolean;
  /** what explains it nearly as well, where nothing tells the two apart */
  readonly or?: Odd;
};

/** What a record keeps of a warning. */
export const oddOf = (warning: Warning | null | undefined): Odd | null =>
  warning ? ({ id: warning.id, facts: warning.facts } as Odd) : null;

/**
 * One thing that may have gone wrong. A new one is a file with a value of this type and a line in `registry.ts`.
 *
 * `weight` is the logarithm of how much better this explains the facts than "nothing odd" does: 0 = just as well. Each
 * hypothesis overrides what it has an opinion of (`instead`), and takes the rest as it is in a sound cup.
 */
export type Hypothesis<F> = { readonly [Id in OddId]: HypothesisOf<F, Id> }[OddId];

interface HypothesisOf<F, Id extends OddId> {
  readonly id: Id;
  /** chance of it before anything is seen. Common practice, no source. */
  readonly prior: number;
  /** hypotheses of one class cannot be told apart by a signal: they are weighed together, and the words name them all */
  readonly alike?: string;
  /** `level`: judges where the signal stands. The operator answers for that once in a cup, whichever hypothesis asked. */
  readonly about?: 'level';
  /** capturing in spite of it would be wrong more often than not */
  readonly stops?: boolean | ((facts: F) => boolean);
  weight(facts: F): number;
  /** competes always, and is said only then; absent = always */
  sayable?(facts: F): boolean;
  /** what a sentence about it is made of */
  facts(facts: F): OddFacts[Id];
}

const LOG_ROOT_2PI = 0.5 * Math.log(2 * Math.PI);

/** Logarithm of a normal density. */
export const normalLog = (x: number, mean: number, sd: number) =>
  -0.5 * ((x - mean) / sd) ** 2 - Math.log(sd) - LOG_ROOT_2PI;

/** Logarithm of a Cauchy density: about a middle, and with a long tail. */
export const cauchyLog = (x: number, middle: number, half: number) =>
  -Math.log(Math.PI * half * (1 + ((x - middle) / half) ** 2));

/** Logarithm of a density that is flat between two figures, with a normal blur at its ends. */
export function flatLog(x: number, low: number, high: number, blur: number): number {
  const beyond = Math.max(0, low - x, x - high) / blur;
  return -Math.log(high - low + 2 * blur) - 0.5 * beyond ** 2;
}

/**
 * Logarithm of a density of something of any size between `least` and `most`: small ones as likely as large ones, decade by
 * decade. Below `least` it is no less likely than there, and on the other side of nothing it ends with the blur.
 */
export function anySizeLog(x: number, least: number, most: number, blur: number): number {
  const beyond = Math.max(0, -x, x - most) / blur;
  const size = Math.min(most, Math.max(least, x));
  return -Math.log(size * (1 + Math.log(most / least))) - 0.5 * beyond ** 2;
}

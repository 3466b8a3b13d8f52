/** Time constants considered, s: from a fast glass electrode to a clogged junction. */
export const TAUS = [1.5, 2.1, 3, 4.2, 6, 8.5, 12, 17, 24, 34, 48, 68, 96, 136, 192, 272, 384] as const;

/** What is known of a kind of sensor's slow tail before anything is measured. */
export interface Tail {
  /** its usual time constant, s, and the standard deviation of the logarithm of it */
  readonly seconds: number;
  readonly spread: number;
  /** share of a step that usually goes the slow way, as a standard deviation */
  readonly share: number;
  /**
   * So many times less certain of where it will stand than the trace says by itself, because its slow way is no exponential;
   * absent = 1
   */
  readonly caution?: number;
  /**
   * How long it takes beside what `settle` reckons for any signal (`usual`), and how its times to ready lie about that:
   * end of the lowest twentieth, middle, beginning of the highest twentieth.
   */
  readonly forecast: { readonly usual: number; readonly times: readonly [number, number, number] };
}

/** Any tail: for a trace of which nothing is known. */
export const ANY_TAIL: Tail = {
  seconds: 40,
  spread: 1.2,
  share: 0.25,
  forecast: { usual: 0.7, times: [0.7, 1.7, 3.1] },
};

/**
 * Weight given beforehand to "nothing moves" and to all fast ways alone together. Small: a glass electrode always
 * has a slow tail, and a model without one would promise that nothing is to come.
 */
const STILL_PRIOR = 0.02;
const SINGLE_PRIOR = 0.02;

const MAX_BINS = 60;

/**
 * A candidate: indices into TAUS of its fast way, which lies between two neighbours of the grid, and of its slow one; −1
 * where there is none. One member alone for the fast way would leave the tail to mend what the grid misses of it.
 */
export type Candidate = readonly [fast: number, next: number, slow: number];

/** Which approaches are weighed, and into how many bins a trace is gathered first. */
export interface Grid {
  readonly bins: number;
  readonly candidates: readonly Candidate[];
}

/** Nothing moves, a fast way alone, a fast way and every slower one. Tails that have died out cost nothing to keep. */
function gridOf(bins: number, every: number): Grid {
  const kept = TAUS.map((_, i) => i).filter((i) => i % every === 0);
  const fast = kept.slice(0, -1).map((i, k): Candidate => [i, kept[k + 1]!, -1]);
  const both = fast.flatMap(([i, next]) => kept.filter((k) => k > next).map((k): Candidate => [i, next, k]));
  return { bins, candidates: [[-1, -1, -1], ...fast, ...both] };
}

export const FINE = gridOf(MAX_BINS, 1);
/** Good enough to say where the next few samples will be: every second time constant, half the bins. */
export const COARSE = gridOf(MAX_BINS / 2, 2);

/** How likely each candidate is beforehand: the kinds as above, among the slow ways as the family's tail says. */
export function priorsOf({ candidates }: Grid, tail: Tail): readonly number[] {
  const known = PRIORS.get(candidates)?.get(tail);
  if (known) return known;
  const usual = ([, , slow]: Candidate) =>
    slow < 0 ? 1 : Math.exp(-0.5 * (Math.log(TAUS[slow]! / tail.seconds) / tail.spread) ** 2) + 1e-9;
  const kinds = [STILL_PRIOR, SINGLE_PRIOR, 1 - STILL_PRIOR - SINGLE_PRIOR];
  const kindOf = ([fast, , slow]: Candidate) => (fast < 0 ? 0 : slow < 0 ? 1 : 2);
  const totals = [0, 0, 0];
  for (const c of candidates) totals[kindOf(c)]! += usual(c);
  const priors = candidates.map((c) => (kinds[kindOf(c)]! * usual(c)) / totals[kindOf(c)]!);
  const of = PRIORS.get(candidates) ?? new WeakMap<Tail, readonly number[]>();
  PRIORS.set(candidates, of.set(tail, priors));
  return priors;
}

/** They are the same after every sample. */
const PRIORS = new WeakMap<readonly Candidate[], WeakMap<Tail, readonly number[]>>();

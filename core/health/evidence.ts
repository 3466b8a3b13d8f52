import type { PastRun } from '../drift/past.ts';

/** What a sensor's runs say of its two halves, each a figure with its own standard uncertainty. */
export interface HealthFacts {
  /** how far the zero has moved since the first run, mV */
  readonly zeroMoved: Figure;
  /** how much sensitivity was lost since the first run, percent of the ideal one */
  readonly sensitivityLost: Figure;
  /** sensitivity now, percent */
  readonly sensitivity: Figure;
  /** natural logarithm of how many times slower it has become at like temperature; null where no run has timed it */
  readonly slower: Figure | null;
  /** error by grab samples less error by standards, in steps that count; null without a sample */
  readonly sampleOff: Figure | null;
  /** how far the others on the same reference have moved since this one's first run, mV; none = none shares it */
  readonly siblings: readonly Figure[];
  /** the last run jumped, and the one before it had not: how surely */
  readonly lastJumped: number;
  readonly runs: number;
}

/** A figure with its standard uncertainty. */
export interface Figure {
  readonly value: number;
  readonly sd: number;
}

/** A run's response time, and how warm the cup was. */
export interface TimedRun {
  readonly t90: number;
  readonly temperatureC: number;
}

/** Glass is slower in the cold: by so much a degree. Common practice, no source. */
const SLOWER_PER_C = 0.03;
/** Two runs of one probe differ by so much in their t90, as a logarithm. Common practice, no source. */
const T90_SD = 0.2;
const THIRD = 3;

/**
 * The evidence in a sensor's past.
 *
 * @param past at least one run, oldest first
 * @param timed runs with a response time, oldest first
 * @param sampleOff see `HealthFacts`
 * @param siblings how far others on the same reference have moved meanwhile, mV
 */
export function healthFacts(
  past: readonly PastRun[],
  timed: readonly TimedRun[] = [],
  sampleOff: Figure | null = null,
  siblings: readonly Figure[] = [],
): HealthFacts {
  const first = past[0]!.known;
  const last = past.at(-1)!.known;
  return {
    zeroMoved: { value: last.zero - first.zero, sd: Math.hypot(last.zeroSd, first.zeroSd) },
    sensitivityLost: {
      value: 100 * (first.sensitivity - last.sensitivity),
      sd: 100 * Math.hypot(last.sensitivitySd, first.sensitivitySd),
    },
    sensitivity: { value: 100 * last.sensitivity, sd: 100 * last.sensitivitySd },
    slower: slowerOf(timed),
    sampleOff,
    siblings,
    lastJumped: past.length > 1 ? past.at(-1)!.jumped : 0,
    runs: past.length,
  };
}

/** The latest third of timed runs against the first one, each brought to the same temperature. */
function slowerOf(timed: readonly TimedRun[]): Figure | null {
  if (timed.length < THIRD) return null;
  const logs = timed.map(({ t90, temperatureC }) => Math.log(t90) + SLOWER_PER_C * (temperatureC - 25));
  const n = Math.max(1, Math.floor(logs.length / THIRD));
  const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
  return { value: mean(logs.slice(-n)) - mean(logs.slice(0, n)), sd: T90_SD * Math.sqrt(2 / n) };
}

import type { ParametersAt } from '../drift/working.ts';
import type { ServiceEvent } from '../drift/history.ts';
import type { PastRun } from '../drift/past.ts';

/** What a sensor's runs say of its two halves, each a figure with its own standard uncertainty. */
export interface HealthFacts {
  /** how far the zero has moved since the first run: mV for an electrode, steps that count for the others */
  readonly zeroMoved: Figure;
  /** how much sensitivity was lost since the first run, percent of the ideal one */
  readonly sensitivityLost: Figure | null;
  /** slope now, percent; null where a new one is not near 100 */
  readonly sensitivity: Figure | null;
  /** natural logarithm of how many times slower it has become at like temperature; null where no run has timed it */
  readonly slower: Figure | null;
  /** error by grab samples less error by standards, in steps that count; null without a sample */
  readonly sampleOff: Figure | null;
  /** others on the same reference: how far their zero and this one's have moved since this one's first run, mV */
  readonly siblings: PeerComparison;
  /** others whose last run used a bottle that is new in this one's last run: how far what they gave in it has moved, steps */
  readonly fellows: PeerComparison;
  /** how far the reading in the water has left what it usually is, steps that count; null where no readings are kept */
  readonly readingMoved: Figure | null;
  /** the same of others in the same water */
  readonly twins: PeerComparison;
  /** natural logarithm of the impedance of the membrane, MΩ at 25 °C, and of the reference, kΩ; null where nothing measures it */
  readonly membrane: Figure | null;
  readonly reference: Figure | null;
  /** the last run jumped, and not back to where it was before: how surely */
  readonly lastJumped: number;
  /** the last run went back to where it was before the run before it jumped: how surely */
  readonly cameBack: number;
  /** the instrument has refused what the last run would have set, and its own figures do not contradict the run's */
  readonly refused: boolean;
  /** what services after all these runs have changed; null where none came, or no run after it */
  readonly treated: Treated | null;
  readonly runs: number;
}

/** What the first run after a service found, less what was known before it: zero as above, and sensitivity in percent. */
export interface Treated {
  readonly kinds: readonly ServiceEvent['kind'][];
  readonly zero: Figure;
  readonly sensitivity: Figure;
}

/** A figure with its standard uncertainty. */
export interface Figure {
  readonly value: number;
  readonly sd: number;
}

/** The same figure of this sensor and of others beside it: do they move together? No others = nothing to compare. */
export interface PeerComparison {
  readonly mine: Figure;
  readonly others: readonly Figure[];
}

/** Nothing to compare with. */
const NOBODY: PeerComparison = { mine: { value: 0, sd: 0 }, others: [] };

/** What is known beside a sensor's own runs; what is left out is not known. */
export interface Checks {
  /** what zeros are counted in, in the unit of the signal: 1 mV (if absent), or a step that counts */
  readonly zeroUnit?: number;
  /** a new one of its kind has a slope near 100 %: a glass electrode; if absent, it has */
  readonly slopeKnown?: boolean;
  readonly sampleOff?: Figure | null;
  /** how far others on the same reference have moved meanwhile, mV */
  readonly siblings?: readonly Figure[];
  readonly fellows?: PeerComparison;
  readonly readingMoved?: Figure | null;
  readonly twins?: readonly Figure[];
  /** the instrument has refused the last calibration */
  readonly refused?: boolean;
  readonly membraneMohm?: number | null;
  readonly referenceKohm?: number | null;
  /** what was done after all runs, and what the first one after that found */
  readonly after?: { readonly kinds: Treated['kinds']; readonly found: ParametersAt } | null;
}

/** A run's response time, and how warm the cup was. */
export interface TimedRun {
  readonly t90: number;
  readonly temperatureC: number;
}

/** Glass is slower in the cold: by so much a degree. Common practice, no source. */
const SLOWER_PER_C = 0.03;
/** The t90 of one probe scatters by so much from run to run, as a logarithm: as sure as so many runs. Common practice, no source. */
const T90_SD = 0.15;
const T90_RUNS = 3;
const THIRD = 3;

/** Impedances of one make scatter by so much, as a logarithm. Common practice, no source. */
const IMPEDANCE_SD = 0.15;
const logOhms = (ohms: number | null | undefined): Figure | null =>
  ohms && ohms > 0 ? { value: Math.log(ohms), sd: IMPEDANCE_SD } : null;

/**
 * The evidence in a sensor's past.
 *
 * @param past at least one run in standards, oldest first
 * @param timed runs with a response time, oldest first
 * @param checks what is known beside its own runs
 * @example healthFacts(pastOf(filtered(falling, phPrior), phPrior)).zeroMoved.value // -16
 */
export function healthFacts(
  past: readonly PastRun[],
  timed: readonly TimedRun[] = [],
  checks: Checks = {},
): HealthFacts {
  const first = past[0]!.known;
  const last = past.at(-1)!.known;
  const unit = checks.zeroUnit ?? 1;
  const zeroMoved = { value: (last.zero - first.zero) / unit, sd: Math.hypot(last.zeroSd, first.zeroSd) / unit };
  const readingMoved = checks.readingMoved ?? null;
  const cameBack = cameBackIn(past);
  return {
    zeroMoved,
    // A sensor with an offset and no slope has none to lose.
    sensitivityLost:
      last.sensitivitySd > 0
        ? {
            value: 100 * (first.sensitivity - last.sensitivity),
            sd: 100 * Math.hypot(last.sensitivitySd, first.sensitivitySd),
          }
        : null,
    sensitivity: checks.slopeKnown === false ? null : { value: 100 * last.sensitivity, sd: 100 * last.sensitivitySd },
    slower: slowerOf(timed),
    sampleOff: checks.sampleOff ?? null,
    siblings: { mine: zeroMoved, others: checks.siblings ?? [] },
    fellows: checks.fellows ?? NOBODY,
    readingMoved,
    twins: readingMoved ? { mine: readingMoved, others: checks.twins ?? [] } : NOBODY,
    membrane: logOhms(checks.membraneMohm),
    reference: logOhms(checks.referenceKohm),
    lastJumped: past.length > 1 ? past.at(-1)!.jumped * (1 - cameBack) : 0,
    cameBack,
    refused: checks.refused ?? false,
    treated: checks.after ? treatedBy(checks.after.kinds, last, checks.after.found, unit) : null,
    runs: past.length,
  };
}

const treatedBy = (kinds: Treated['kinds'], before: ParametersAt, after: ParametersAt, unit: number): Treated => ({
  kinds,
  zero: { value: (after.zero - before.zero) / unit, sd: Math.hypot(after.zeroSd, before.zeroSd) / unit },
  sensitivity: {
    value: 100 * (after.sensitivity - before.sensitivity),
    sd: 100 * Math.hypot(after.sensitivitySd, before.sensitivitySd),
  },
});

/** Going back is within this share of the jump. Our own choice. */
const BACK_SHARE = 0.2;

/** Did the last run undo what the one before it had jumped by? */
function cameBackIn(past: readonly PastRun[]): number {
  const [a, b, c] = past.slice(-3);
  if (!a || !b || !c) return 0;
  // Whichever of the two has jumped: a wrong bottle moves one of them, or both.
  const [jump, back, sd] = (['zero', 'sensitivity'] as const)
    .map((of) => {
      const noise = Math.hypot(a.found[`${of}Sd`], c.found[`${of}Sd`]);
      return [b.found[of] - a.found[of], c.found[of] - a.found[of], noise] as const;
    })
    .reduce((x, y) => (Math.abs(y[0]) * x[2] > Math.abs(x[0]) * y[2] ? y : x));
  if (!(sd > 0)) return 0;
  // Back where it was, or anywhere, of the size of the jump.
  const log = (mean: number, spread: number) => -0.5 * ((back - mean) / spread) ** 2 - Math.log(spread);
  const [returned, anywhere] = [log(0, Math.hypot(sd, BACK_SHARE * jump)), log(jump, Math.hypot(sd, jump))];
  return (b.jumped * c.jumped) / (1 + Math.exp(anywhere - returned));
}

/**
 * The latest third of timed runs against the first one, each brought to the same temperature. How far they scatter is learned
 * from each run against the two beside it, which a steady change does not move.
 */
function slowerOf(timed: readonly TimedRun[]): Figure | null {
  if (timed.length < THIRD) return null;
  const logs = timed.map(({ t90, temperatureC }) => Math.log(t90) + SLOWER_PER_C * (temperatureC - 25));
  const n = Math.max(1, Math.floor(logs.length / THIRD));
  const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
  const squares = logs.slice(2).reduce((s, v, i) => s + (v - 2 * logs[i + 1]! + logs[i]!) ** 2 / 6, 0);
  const variance = (T90_RUNS * T90_SD ** 2 + squares) / (T90_RUNS + logs.length - 2);
  return { value: mean(logs.slice(-n)) - mean(logs.slice(0, n)), sd: Math.sqrt((2 / n) * variance) };
}

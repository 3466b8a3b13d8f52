import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/**
 * How a conductivity goes with temperature: by a straight line with so many % per °C, as natural water does, or as sodium
 * chloride does that is dissolved in nearly nothing.
 */
export type Compensation = number | 'natural water' | 'NaCl';

/** The ways, as they are picked and said. */
export const COURSES = [
  { id: 'line', name: 'by a straight line' },
  { id: 'natural water', name: 'as natural water, ISO 7888' },
  { id: 'NaCl', name: 'as sodium chloride' },
] as const;

/**
 * The way that was picked: a line takes its coefficient.
 *
 * @param alphaPercent of the line, %/°C
 * @example courseOf('line', 2) // 2
 */
export const courseOf = (picked: unknown, alphaPercent: number): Compensation =>
  picked === 'natural water' || picked === 'NaCl' ? picked : alphaPercent;

/**
 * Limiting equivalent conductivities, S cm²/mol, of Na+ and Cl−: Robinson & Stokes, Electrolyte Solutions (1959),
 * appendix 6.2, from memory of the table. Only their sum's ratio to 25 °C is used.
 */
export const NACL_LIMITING: readonly TableRow[] = [
  [0, 67.5],
  [5, 77.8],
  [15, 101.1],
  [18, 108.8],
  [25, 126.45],
  [35, 153.7],
  [45, 182.63],
];

/** What can be asked of a loop's compensation, %/°C: 0 is a channel that does none. */
const ALPHA_RANGE = { low: 0, high: 10 } as const;

/** Below this much of what it is at 25 °C a linear compensation means nothing. */
const MIN_FACTOR = 0.1;

/**
 * 1 + α(T − 25), the linear compensation.
 *
 * @param alphaPercent α in % per °C, 0 to 10
 * @throws Refusal `out-of-range`, `compensation-breaks-down` far below 25 °C
 * @example linearFactor(20, 2) // 0.9
 */
export function linearFactor(temperatureC: number, alphaPercent: number): number {
  const { low, high } = ALPHA_RANGE;
  requireWithin(alphaPercent, low, high, 'temperature coefficient', '%/°C', 'About 2 is usual; 0 means none.');
  requireWithin(temperatureC, -50, 250, 'temperature', '°C', 'Check the thermometer and its unit.');
  const factor = 1 + (alphaPercent / 100) * (temperatureC - 25);
  if (factor >= MIN_FACTOR) return factor;
  throw new Refusal(
    'compensation-breaks-down',
    `At ${temperatureC} °C a coefficient of ${alphaPercent} %/°C leaves ${factor.toFixed(2)} of the value at 25 °C; below ${MIN_FACTOR} it means nothing. Measure nearer to 25 °C, or use a smaller coefficient.`,
    { value: factor, low: MIN_FACTOR },
  );
}

/** Viscosity of water, mPa s: η = −0.198058 + e^(−1.992186 + 231.17628/(t + 86.39123)), from memory. */
const viscosity = (t: number) => -0.198058 + Math.exp(-1.992186 + 231.17628 / (t + 86.39123));

/** ISO 7888:1985, annex: factor to 25 °C = 1.116 · ((1 − a) + a (η/η20)^n), from memory. */
const [AT_20, A, N] = [1.116, 0.962144, 0.965078];
const raw = (t: number) => AT_20 * (1 - A + A * (viscosity(t) / viscosity(20)) ** N);
/** The closed form gives 1.0004 at 25 °C, where it is 1 by definition. */
const AT_25 = raw(25);

/**
 * Conductivity of a water over what it has at 25 °C.
 *
 * @param temperatureC any for a line; 0 to 35 for natural water, 0 to 45 for sodium chloride
 * @throws Refusal `out-of-range`, and for a line as `linearFactor`
 * @see ISO 7888:1985, linear and non-linear compensation; Robinson & Stokes 1959
 * @example courseFactor(20, 2) // 0.9
 * @example courseFactor(10, 'natural water') // 0.7004
 * @example courseFactor(15, 'NaCl') // 0.7995
 */
export function courseFactor(temperatureC: number, by: Compensation): number {
  if (by === 'natural water') {
    requireWithin(temperatureC, 0, 35, 'temperature', '°C', 'The factors of ISO 7888 hold from 0 to 35 °C.');
    return AT_25 / raw(temperatureC);
  }
  if (by === 'NaCl') {
    requireWithin(temperatureC, 0, 45, 'temperature', '°C', 'The conductivities of its ions hold from 0 to 45 °C.');
    return interpolate(NACL_LIMITING, temperatureC)! / interpolate(NACL_LIMITING, 25)!;
  }
  return linearFactor(temperatureC, by);
}

import { Refusal, requireFinite, requireWithin } from '../../quantities/refusal.ts';

/** Conductivity of seawater of S = 35 at 15 °C (IPTS-68) and no pressure, mS/cm: the ratio's denominator. */
const C_35_15_0 = 42.914;

/** Where PSS-78 holds, and below 2 its extension. */
const SALINITY_RANGE = { low: 0, high: 42, lowC: -2, highC: 35 } as const;
/** From here on downwards the extension counts. */
const WEAK = 2;

/** Standard uncertainty of the scale's equations against the data behind them, from memory of the report. */
export const SALINITY_UNCERTAINTY = 0.0015;

const A = [0.008, -0.1692, 25.3851, 14.0941, -7.0261, 2.7081] as const;
const B = [0.0005, -0.0056, -0.0066, -0.0375, 0.0636, -0.0144] as const;
const K = 0.0162;
const C = [0.6766097, 2.00564e-2, 1.104259e-4, -6.9698e-7, 1.0031e-9] as const;
const D = [3.426e-2, 4.464e-4, 4.215e-1, -3.107e-3] as const;
const E = [2.07e-5, -6.37e-10, 3.989e-15] as const;

/**
 * Today's temperature on the scale of 1968, on which PSS-78 and EOS-80 were fitted.
 *
 * @param t90 °C, ITS-90
 * @see Saunders, WOCE Newsletter 10 (1990) 10
 * @example t68(25) // 25.006
 */
export function t68(t90: number): number {
  return 1.00024 * t90;
}

const poly = (c: readonly number[], x: number) => {
  let sum = 0;
  for (let i = c.length - 1; i >= 0; i--) sum = sum * x + c[i]!;
  return sum;
};

/** rt: conductivity of S = 35 at t over that at 15 °C. */
const rt = (t: number) => poly(C, t);

/** 1 + the effect of pressure p (dbar) on the ratio. */
const pressureTerm = (ratio: number, t: number, p: number) =>
  1 + (p * poly(E, p)) / (1 + D[0] * t + D[1] * t * t + (D[2] + D[3] * t) * ratio);

const ofTemperature = (t: number) => (t - 15) / (1 + K * (t - 15));

/** Salinity from the ratio at one temperature, by x = √Rt. */
const scaleOf = (x: number, t: number) => poly(A, x) + ofTemperature(t) * poly(B, x);

/**
 * As weak seawater really has it.
 *
 * @see Hill, Dauphinee & Woods, IEEE J. Oceanic Eng. 11 (1986) 109: X = 400 Rt, Y = 100 Rt; from memory
 */
function weakOf(x: number, t: number): number {
  const big = 400 * x * x;
  const root = 10 * x;
  const less = A[0] / (1 + 1.5 * big + big * big) + (B[0] * ofTemperature(t)) / (1 + root + root ** 2 + root ** 3);
  return scaleOf(x, t) - less;
}

/** The scale, and below 2 its extension, stretched by up to 0.03 % so that both meet there, as TEOS-10 does. */
function fromRoot(x: number, t: number): number {
  const s = scaleOf(x, t);
  if (s >= WEAK) return s;
  const meet = rootOf((y) => scaleOf(y, t) - WEAK);
  return (WEAK / weakOf(meet, t)) * weakOf(x, t);
}

/** √Rt of water with hardly a µS/cm: salinity is 0 to four decimals from here on downwards, where the extension bends. */
const NOTHING = 0.003;

/** Where a rising function of √Rt is nothing, at the weak end, by halving. */
function rootOf(of: (x: number) => number): number {
  let [low, high] = [NOTHING, 0.4];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (of(middle) < 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The weak end read backwards. */
function weakRoot(s: number, t: number): number {
  const stretch =
    WEAK /
    weakOf(
      rootOf((x) => scaleOf(x, t) - WEAK),
      t,
    );
  return rootOf((x) => stretch * weakOf(x, t) - s);
}

/**
 * Practical salinity from a conductivity ratio.
 *
 * @param ratio conductivity over that of S = 35 at 15 °C and no pressure, above 0
 * @param temperature68 °C on the scale of 1968 (see `t68`), −2 to 35
 * @param pressureDbar above atmospheric, 0 to 10 000
 * @returns practical salinity, no unit
 * @throws Refusal `out-of-range`, `salinity-outside-scale` when the result lies outside 0 to 42
 * @see UNESCO Technical Papers in Marine Science 44 (1983), algorithm 1; below 2 Hill, Dauphinee & Woods (1986)
 * @example salinityFromRatio(1.2, 20, 2000) // 37.245628
 */
export function salinityFromRatio(ratio: number, temperature68: number, pressureDbar = 0): number {
  requireWithin(temperature68, -2.001, 35.01, 'temperature', '°C', 'Practical salinity holds from −2 to 35 °C only.');
  requireWithin(pressureDbar, 0, 10_000, 'pressure', 'dbar', 'Enter the pressure above that of the air.');
  requireFinite(ratio, 'conductivity ratio');
  if (!(ratio > 0)) {
    throw new Refusal(
      'out-of-range',
      `A conductivity ratio of ${ratio} has no salinity. Check reading and unit; a dry cell reads 0.`,
      { value: ratio, low: 0 },
    );
  }
  const x = Math.sqrt(ratio / (rt(temperature68) * pressureTerm(ratio, temperature68, pressureDbar)));
  const whole = fromRoot(x, temperature68);
  // What is weaker than the equation can tell is no salt at all.
  const s = whole < 0 && whole > -0.001 ? 0 : whole;
  if (!(s >= SALINITY_RANGE.low && s <= SALINITY_RANGE.high)) {
    // Far outside, the polynomial's figure itself means nothing: it is not shown.
    const shown = s > 0 && s < 60 ? `Practical salinity ${s.toFixed(2)}` : 'What this reads';
    throw new Refusal(
      'salinity-outside-scale',
      `${shown} is outside the scale (0 to 42). Use conductivity itself here, and check reading and unit.`,
      { value: Number.isFinite(s) ? s : null, low: SALINITY_RANGE.low, high: SALINITY_RANGE.high },
    );
  }
  return s;
}

/**
 * Practical salinity from a conductivity as measured (not compensated).
 *
 * @param conductivityUsPerCm at the temperature of the water, µS/cm
 * @param temperatureC ITS-90, −2 to 35 °C
 * @param pressureDbar 0 at the surface
 * @throws Refusal as `salinityFromRatio`
 * @example salinity({ conductivityUsPerCm: 53065, temperatureC: 25 }) // 34.9955
 */
export function salinity({
  conductivityUsPerCm,
  temperatureC,
  pressureDbar = 0,
}: {
  readonly conductivityUsPerCm: number;
  readonly temperatureC: number;
  readonly pressureDbar?: number;
}): number {
  requireFinite(conductivityUsPerCm, 'conductivity');
  return salinityFromRatio(conductivityUsPerCm / (1000 * C_35_15_0), t68(temperatureC), pressureDbar);
}

/**
 * Conductivity of seawater: the scale read backwards.
 *
 * @param s practical salinity, 0 to 42
 * @param temperatureC ITS-90, −2 to 35 °C
 * @returns µS/cm at that temperature and pressure
 * @throws Refusal `out-of-range`
 * @example conductivityOfSeawater(35, 15) // 42918
 */
export function conductivityOfSeawater(s: number, temperatureC: number, pressureDbar = 0): number {
  const { low, high, lowC, highC } = SALINITY_RANGE;
  requireWithin(s, low, high + 1e-9, 'practical salinity', '', 'The scale holds from 0 to 42.');
  if (s === 0) return 0;
  requireWithin(temperatureC, lowC, highC, 'temperature', '°C', 'Practical salinity holds from −2 to 35 °C only.');
  requireWithin(pressureDbar, 0, 10_000, 'pressure', 'dbar', 'Enter the pressure above that of the air.');
  const t = t68(temperatureC);
  // Newton on x = √Rt; S(x) rises throughout the scale, and from √(S/35) four steps reach the last digit.
  let x = Math.sqrt(s / 35);
  if (s < WEAK) x = weakRoot(s, t);
  else
    for (let i = 0; i < 20; i++) {
      const slope = (fromRoot(x + 1e-6, t) - fromRoot(x - 1e-6, t)) / 2e-6;
      const step = (fromRoot(x, t) - s) / slope;
      x -= step;
      if (Math.abs(step) < 1e-14) break;
    }
  const atSurface = rt(t) * x * x;
  let ratio = atSurface;
  // The pressure term hardly depends on the ratio, so putting it back in settles at once.
  for (let i = 0; i < 30; i++) ratio = atSurface * pressureTerm(ratio, t, pressureDbar);
  return ratio * 1000 * C_35_15_0;
}

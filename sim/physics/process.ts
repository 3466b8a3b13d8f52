import type { Ions, Liquid } from './liquids.ts';
import { freshUs, seawaterUs } from './waters.ts';

const DAY_MS = 86_400_000;

/** The process that a probe hangs in. It moves by itself: light and dark, dosing, topping up with pure water. */
export interface Process {
  readonly ph: number;
  /** half of the day's way up and down, pH; highest in the late afternoon as light takes the CO2 */
  readonly dailySwing: number;
  readonly temperatureC: number;
  readonly temperatureSwing?: number;
  /** conductivity at 25 °C, µS/cm; or a salinity */
  readonly us25?: number;
  readonly salinity?: number;
  /** mV against standard hydrogen */
  readonly eh?: number;
  readonly poise?: number;
  readonly ions?: Partial<Ions>;
  readonly chlorine?: number;
  /** share of saturation, and half of the day's way up and down: plants give by day and take by night */
  readonly oxygen?: number;
  readonly oxygenSwing?: number;
  /** salts and ions leave with what is drawn off and refilled: share a day, from this moment on */
  readonly dilution?: { readonly fromMs: number; readonly aDay: number };
  /** a dose raises salts and ions by a share at once; what lives in the water takes it up until the next */
  readonly dosing?: { readonly everyHours: number; readonly share: number };
  /** a real and lasting change of the pH, from this moment on: the process moved, not the sensor */
  readonly moved?: { readonly fromMs: number; readonly ph: number };
}

/** How far the day is, −1 in the small hours to 1 in the late afternoon. */
const light = (atMs: number) => Math.sin(2 * Math.PI * ((((atMs / DAY_MS) % 1) + 1 - 0.45) % 1));

export function processPh({ ph, dailySwing, moved }: Process, atMs: number): number {
  return ph + dailySwing * light(atMs) + (moved && atMs >= moved.fromMs ? moved.ph : 0);
}

export const processC = ({ temperatureC, temperatureSwing = 0 }: Process, atMs: number) =>
  temperatureC + temperatureSwing * light(atMs - DAY_MS / 12);

/** Salts left and added, as a share of the usual: exponential wash-out, and a saw of doses. */
export function strengthOf({ dilution, dosing }: Process, atMs: number): number {
  const days = dilution ? Math.max(0, (atMs - dilution.fromMs) / DAY_MS) : 0;
  const washed = dilution ? Math.exp(-dilution.aDay * days) : 1;
  const since = dosing ? (atMs / 3_600_000 / dosing.everyHours) % 1 : 0;
  return washed * (dosing ? 1 + dosing.share * (0.5 - since) : 1);
}

/** Oxygen as a share of saturation. */
const oxygenShare = ({ oxygen = 1, oxygenSwing = 0 }: Process, atMs: number) =>
  oxygen + oxygenSwing * light(atMs - DAY_MS / 24);

/** The water of a process at a moment. */
export function waterOf(process: Process, atMs: number): Liquid {
  const strength = strengthOf(process, atMs);
  const { us25 = 400, salinity, eh = 350, poise = 0.15, ions = {}, chlorine = 0 } = process;
  return {
    ph: () => processPh(process, atMs),
    buffering: 0.1,
    us: (t) => (salinity === undefined ? freshUs(us25 * strength, t) : seawaterUs(salinity * strength, t)),
    eh: () => eh,
    poise,
    ions: {
      nitrate: (ions.nitrate ?? 0) * strength,
      potassium: (ions.potassium ?? 0) * strength,
      chloride: (ions.chloride ?? 0) * strength,
    },
    chlorine,
    oxygen: oxygenShare(process, atMs),
    standard: false,
  };
}

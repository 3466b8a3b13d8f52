import { phBodyAt, SOUND, type Life } from '../physics/ageing.ts';
import { seedOf } from '../physics/chance.ts';
import type { Process } from '../physics/process.ts';
import type { BodyTruth } from '../physics/truth.ts';

/** One pH loop of the invented house, with its hidden truth. Tidewater House does not exist. */
export interface HousePh {
  readonly key: string;
  readonly name: string;
  readonly place: string;
  readonly serial: string;
  readonly process: Process;
  readonly tolerancePh: number;
  readonly intervalDays: number;
  readonly controls: string;
  /** what that does to pH; acid and CO2, as most: lowers it */
  readonly controlAction?: 'raises' | 'lowers';
  readonly pointSet: readonly string[];
  /** age of the sensor today, days */
  /** the loop that it stands in for */
  readonly backupOf?: string;
  readonly ageDays: number;
  /** days between runs, by habit */
  readonly habitDays: number;
  /** days since the last run; null: never */
  readonly lastRunDaysAgo: number | null;
  readonly life: Life;
  /** what is wrong with it, for the tests and for people who check the demo; never sent anywhere */
  readonly truth: string;
}

/** The waters of the house, that several sensors hang in. */
const DISPLAY: Process = {
  ph: 8.05,
  dailySwing: 0.14,
  temperatureC: 25.5,
  temperatureSwing: 0.3,
  salinity: 22,
  eh: 430,
  ions: { potassium: 6.4, chloride: 343 },
  oxygen: 0.96,
  oxygenSwing: 0.05,
};
const feed = (ph: number, dailySwing: number): Process => ({
  ph,
  dailySwing,
  temperatureC: 21,
  temperatureSwing: 0.8,
  us25: 1850,
  ions: { nitrate: 9.5, potassium: 5.6, chloride: 0.6 },
  dosing: { everyHours: 8, share: 0.06 },
});
const LINE_1: Process = { ...feed(5.8, 0.12), oxygen: 0.88, oxygenSwing: 0.02 };
const LINE_2 = feed(5.9, 0.1);
const REMINERALISED: Process = {
  ph: 7.6,
  dailySwing: 0.04,
  temperatureC: 18.5,
  us25: 310,
  ions: { nitrate: 0.12, potassium: 0.05, chloride: 0.9 },
};
const RINSE_LINE: Process = {
  ph: 7.2,
  dailySwing: 0.05,
  temperatureC: 19,
  us25: 520,
  eh: 690,
  poise: 0.1,
  chlorine: 0.5,
};
const MAKE_UP: Process = { ph: 6.4, dailySwing: 0, temperatureC: 18, us25: 0.9, poise: 0.02 };

const SEA_POINTS = ['technical-7.00', 'technical-10.01'];
const FEED_POINTS = ['technical-7.00', 'technical-4.01'];

/** Ages of everything below count back from the day on which the demo is first started. */
export const TIDEWATER: readonly HousePh[] = [
  {
    key: 'display-main',
    name: 'Display pH, main',
    place: 'Mangrove gallery',
    serial: 'TH-0412',
    process: DISPLAY,
    tolerancePh: 0.2,
    intervalDays: 45,
    controls: 'CO2 dosing',
    pointSet: SEA_POINTS,
    ageDays: 548,
    habitDays: 43,
    lastRunDaysAgo: 12,
    life: { ...SOUND, newZeroMv: -2.5 },
    truth: 'sound',
  },
  {
    key: 'display-backup',
    backupOf: 'display-main',
    name: 'Display pH, backup',
    place: 'Mangrove gallery',
    serial: 'TH-0413',
    process: DISPLAY,
    tolerancePh: 0.2,
    intervalDays: 60,
    controls: '',
    pointSet: SEA_POINTS,
    ageDays: 548,
    habitDays: 58,
    lastRunDaysAgo: 31,
    life: { ...SOUND, newZeroMv: 3.1, newSlope: 0.978, blockedFromDay: 420, blockedMvPerDay: 0.09 },
    truth: 'junction blocked: shows in samples, not in buffers',
  },
  {
    key: 'line-1',
    name: 'Line 1 pH',
    place: 'Strawberry hall',
    serial: 'TH-0288',
    process: LINE_1,
    tolerancePh: 0.15,
    intervalDays: 30,
    controls: 'acid dosing',
    pointSet: FEED_POINTS,
    ageDays: 760,
    habitDays: 29,
    lastRunDaysAgo: 27,
    life: {
      ...SOUND,
      newSlope: 0.972,
      wearPerDay: 0.00028,
      wearFromDay: 380,
      wanderMv: 1.6,
      fastSeconds: 6,
      slowSeconds: 30,
    },
    truth: 'aged glass: slope falling, response slowing',
  },
  {
    key: 'line-2',
    name: 'Line 2 pH',
    place: 'Strawberry hall',
    serial: 'TH-0521',
    process: LINE_2,
    tolerancePh: 0.15,
    intervalDays: 30,
    controls: 'acid dosing',
    pointSet: FEED_POINTS,
    ageDays: 2,
    habitDays: 30,
    lastRunDaysAgo: null,
    life: { ...SOUND, newZeroMv: -6.2, newSlope: 0.991 },
    truth: 'sound, just fitted, never calibrated',
  },
  {
    key: 'multi-probe',
    name: 'Multi-probe pH',
    place: 'Strawberry hall',
    serial: 'TH-0367',
    process: LINE_2,
    tolerancePh: 0.15,
    intervalDays: 30,
    controls: '',
    pointSet: FEED_POINTS,
    ageDays: 548,
    habitDays: 26,
    lastRunDaysAgo: 22,
    life: { ...SOUND, newZeroMv: 2.0, dilutionFromDay: 330, dilutionDays: 260, wanderMv: 0.9 },
    truth: 'reference electrolyte slowly diluted',
  },
  {
    key: 'remineralised',
    name: 'Remineralised line pH',
    place: 'Plant room',
    serial: 'TH-0433',
    process: REMINERALISED,
    tolerancePh: 0.2,
    intervalDays: 60,
    controls: '',
    pointSet: SEA_POINTS,
    ageDays: 548,
    habitDays: 57,
    lastRunDaysAgo: 8,
    life: {
      ...SOUND,
      newZeroMv: -1.2,
      newSlope: 0.99,
      wanderMv: 0.8,
      dilutionFromDay: 30,
      dilutionDays: 2500,
      refilledOnDay: 360,
    },
    truth: 'sound; its reference was refilled half a year ago',
  },
  {
    key: 'rinse-line',
    name: 'Rinse line pH',
    place: 'Plant room',
    serial: 'TH-0390',
    process: RINSE_LINE,
    tolerancePh: 0.15,
    intervalDays: 30,
    controls: 'hypochlorite dosing',
    controlAction: 'raises',
    pointSet: FEED_POINTS,
    ageDays: 548,
    habitDays: 33,
    lastRunDaysAgo: 74,
    life: { ...SOUND, newZeroMv: 4.4, newSlope: 0.98, wanderMv: 2.2 },
    truth: 'sound, but nobody looked for ten weeks',
  },
];

/** Seed of one probe's wander and noise: the same for its history and for the live stand-in. */
export function lifeOf(house: HousePh, seed: number): { readonly life: Life; readonly seed: number } {
  return { life: house.life, seed: seedOf(seed, house.key) };
}

/** What a pH loop's body is like so many days before today. */
export function truthOf(house: HousePh, seed: number, daysAgo = 0): BodyTruth {
  const { life, seed: own } = lifeOf(house, seed);
  return phBodyAt(life, house.ageDays - daysAgo, own);
}

export { DISPLAY, LINE_1, LINE_2, MAKE_UP, REMINERALISED, RINSE_LINE };

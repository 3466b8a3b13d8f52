import { SOUND, type Life } from '../physics/ageing.ts';
import { seedOf } from '../physics/chance.ts';
import type { Process } from '../physics/liquids.ts';

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
  readonly pointSet: readonly string[];
  /** age of the sensor today, days */
  readonly ageDays: number;
  /** days between runs, by habit */
  readonly habitDays: number;
  /** days since the last run; null: never */
  readonly lastRunDaysAgo: number | null;
  readonly life: Life;
  /** what is wrong with it, for the tests and for whoever checks the demo; never sent anywhere */
  readonly truth: string;
}

const SEA_POINTS = ['technical-7.00', 'technical-10.01'];
const FEED_POINTS = ['technical-7.00', 'technical-4.01'];

/** Ages of everything below count back from the day on which the demo is first started. */
export const TIDEWATER: readonly HousePh[] = [
  {
    key: 'display-main',
    name: 'Display pH, main',
    place: 'Mangrove gallery',
    serial: 'TH-0412',
    process: { ph: 8.05, dailySwing: 0.14, temperatureC: 25.5 },
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
    name: 'Display pH, backup',
    place: 'Mangrove gallery',
    serial: 'TH-0413',
    process: { ph: 8.05, dailySwing: 0.14, temperatureC: 25.5 },
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
    process: { ph: 5.8, dailySwing: 0.12, temperatureC: 21 },
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
      glassLossPerDay: 0.00028,
      glassFromDay: 380,
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
    process: { ph: 5.9, dailySwing: 0.1, temperatureC: 21 },
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
    process: { ph: 5.9, dailySwing: 0.1, temperatureC: 21 },
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
    process: { ph: 7.6, dailySwing: 0.04, temperatureC: 18.5 },
    tolerancePh: 0.2,
    intervalDays: 60,
    controls: '',
    pointSet: SEA_POINTS,
    ageDays: 548,
    habitDays: 57,
    lastRunDaysAgo: 8,
    life: { ...SOUND, newZeroMv: -1.2, newSlope: 0.99, wanderMv: 0.8 },
    truth: 'sound',
  },
  {
    key: 'rinse-line',
    name: 'Rinse line pH',
    place: 'Plant room',
    serial: 'TH-0390',
    process: { ph: 7.2, dailySwing: 0.05, temperatureC: 19 },
    tolerancePh: 0.15,
    intervalDays: 30,
    controls: 'hypochlorite dosing',
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

import type { Bundle, BundleCapture, BundleDoses, BundleReadings, BundleRun, BundleService } from '@frustum/formats';
import { Body } from '../physics/body.ts';
import { chance, seedOf, type Chance } from '../physics/chance.ts';
import type { Stands } from './others.ts';
import { othersOf } from './others-history.ts';
import { lifeOf, TIDEWATER, truthOf, type HousePh } from './tidewater.ts';

const DAY_MS = 86_400_000;
const HISTORY_DAYS = 548;
/** The school of the house: two minutes by the clock. */
const DWELL_S = 120;
/** Registers of one probe on the stand-in's bus. */
export const REGISTERS_A_PROBE = 20;

/** A pH loop on the transmitter, in the order of its inputs. */
const loopOf = (
  house: HousePh,
  i: number,
  todayMs: number,
  { host, port, jsonUrl }: Stands,
): Bundle['loops'][number] => ({
  key: house.key,
  name: house.name,
  place: house.place,
  family: 'ph',
  workingValue: house.process.ph,
  workingC: house.process.temperatureC,
  tolerance: house.tolerancePh,
  intervalDays: house.intervalDays,
  controls: house.controls,
  sensor: {
    name: house.name.replace(' pH', ' pH probe'),
    serial: house.serial,
    fittedOn: isoDay(todayMs - house.ageDays * DAY_MS),
  },
  pointSet: house.pointSet,
  ...(house.backupOf ? { backupOf: house.backupOf } : {}),
  ...(house.key === 'multi-probe' && jsonUrl ? { referenceGroup: 'multi-probe' } : {}),
  ...(house.controls ? { controlAction: house.controlAction ?? ('lowers' as const) } : {}),
  channel: {
    kind: 'modbus' as const,
    host,
    port,
    unitId: 1,
    baseAddress: i * REGISTERS_A_PROBE,
    impedance: true,
  },
});

/**
 * A year and a half of runs of the invented house, measured by its own probes: what an operator's recorder would hold.
 *
 * @param todayMs the day that "now" means, epoch milliseconds
 * @param seed the plant; the same seed gives the same history
 * @param stand where the live stand-in listens
 * @param houses the loops; Tidewater House's own, or any number made by `fleetOf`
 */
export function historyOf(
  todayMs: number,
  seed: number,
  stand: Stands,
  houses: readonly HousePh[] = TIDEWATER,
): Bundle {
  const lots = lotsUpTo(todayMs);
  const others = stand.jsonUrl
    ? othersOf(todayMs, seed, stand)
    : { loops: [], lots: [], runs: [], readings: [], doses: [] };
  return {
    format: 'frustum-bundle',
    version: 2,
    site: { name: 'Tidewater House', timeZone: 'UTC' },
    loops: [...houses.map((house, i) => loopOf(house, i, todayMs, stand)), ...others.loops],
    lots: [
      ...lots.map(({ key, standardId, label, expiresOn, openedOn }) => ({
        key,
        standardId,
        label,
        expiresOn,
        openedOn,
      })),
      ...others.lots,
    ],
    runs: [...houses.flatMap((house) => runsOf(house, todayMs, seed, lots)), ...others.runs].sort((a, b) =>
      a.startedAt.localeCompare(b.startedAt),
    ),
    readings: [
      ...houses
        .filter((house) => hasFellow(house, houses))
        .map((house) =>
          readingsOf(house, todayMs, seed, { name: 'hourly', fromDay: FELLOW_DAYS, toDay: READING_DAYS, stepS: 3600 }),
        ),
      ...houses.map((house) =>
        readingsOf(house, todayMs, seed, { name: 'readings', fromDay: READING_DAYS, toDay: 0, stepS: READING_STEP_S }),
      ),
      ...others.readings,
    ],
    services: houses.flatMap((house) => servicesOf(house, todayMs)),
    doses: [...houses.flatMap((house) => dosesOf(house, todayMs, seed)), ...others.doses],
  };
}

/** How far back readings go, and how dense they are. */
const READING_DAYS = 7;
const READING_STEP_S = 600;

/** Where two hang in the same water, an hourly reading was kept for longer. */
const FELLOW_DAYS = 60;
const hasFellow = (house: HousePh, houses: readonly HousePh[]) =>
  houses.some((o) => o !== house && o.place === house.place && o.process === house.process);

interface Recorded {
  readonly name: string;
  /** days before today */
  readonly fromDay: number;
  readonly toDay: number;
  readonly stepS: number;
}

/** What the probe showed in its water: the body hangs there, ages, and time passes. */
function readingsOf(
  house: HousePh,
  todayMs: number,
  seed: number,
  { name, fromDay, toDay, stepS }: Recorded,
): BundleReadings {
  const from = Math.min(house.ageDays, fromDay);
  const count = Math.max(0, from - toDay) * (86_400 / stepS);
  const fromMs = todayMs - from * DAY_MS;
  let truth = truthOf(house, seed, from);
  const body = new Body({
    senses: { ph: { of: 'ph' } },
    truth: () => truth,
    process: house.process,
    seed: seedOf(seed, `${house.key} ${name}`),
    atMs: fromMs,
  });
  const values = Array.from({ length: count }, (_, i): [number, number] => {
    const atMs = fromMs + i * stepS * 1000;
    truth = truthOf(house, seed, (todayMs - atMs) / DAY_MS);
    for (let s = 0; s < stepS; s += READING_STEP_S) body.step(READING_STEP_S, atMs + s * 1000);
    const { electrodes, temperatureC } = body.shown();
    return [round(electrodes['ph']!, 1), round(temperatureC, 2)];
  });
  return { loop: house.key, from: new Date(fromMs).toISOString(), stepSeconds: stepS, values };
}

function servicesOf(house: HousePh, todayMs: number): BundleService[] {
  const { refilledOnDay } = house.life;
  if (refilledOnDay === undefined || refilledOnDay > house.ageDays) return [];
  const at = new Date(todayMs - (house.ageDays - refilledOnDay) * DAY_MS).toISOString();
  return [{ loop: house.key, at, kind: 'refilled', note: 'Reference filled up with 3 mol/kg KCl.', by: 'Operator B' }];
}

/** So far back the pump's counter was written down. */
const DOSED_DAYS = 365;

/** Acid for the feed lines: some every day, as much as plants and water asked for. Invented. */
function dosesOf({ key, controls, ageDays }: HousePh, todayMs: number, seed: number): BundleDoses[] {
  if (!controls.includes('acid')) return [];
  const dice = chance(seedOf(seed, `${key} doses`));
  const days = Math.min(DOSED_DAYS, ageDays);
  const given = Array.from({ length: days }, (_, i): [string, number] => [
    new Date(todayMs - (days - i) * DAY_MS + Math.round(dice.uniform() * 600) * 60_000).toISOString(),
    Math.max(5, Math.round(60 + 15 * dice.normal())),
  ]);
  return [{ loop: key, what: 'phosphoric acid 10 %', unit: 'mL', given }];
}

const isoDay = (ms: number) => new Date(ms).toISOString().slice(0, 10);

interface DatedLot {
  readonly key: string;
  readonly standardId: string;
  readonly label: string;
  readonly expiresOn: string;
  readonly openedOn: string;
  readonly fromMs: number;
}

/** A new bottle of each buffer every 75 days. */
function lotsUpTo(todayMs: number): DatedLot[] {
  const every = 75;
  return ['4.01', '7.00', '10.01'].flatMap((name, k) =>
    Array.from({ length: Math.ceil(HISTORY_DAYS / every) }, (_, i) => {
      const fromMs = todayMs - (5 + k * 3 + i * every) * DAY_MS;
      const number = 140 - i;
      return {
        key: `lot-${name}-${number}`,
        standardId: `technical-${name}`,
        label: `${'KMR'[k]}-${number}`,
        fromMs,
        openedOn: isoDay(fromMs),
        expiresOn: isoDay(fromMs + 300 * DAY_MS),
      };
    }),
  );
}

function runsOf(house: HousePh, todayMs: number, seed: number, lots: readonly DatedLot[]): BundleRun[] {
  if (house.lastRunDaysAgo === null) return [];
  const mine = lifeOf(house, seed);
  const dice = chance(seedOf(mine.seed, 'runs'));
  const runs: BundleRun[] = [];
  const oldest = Math.min(HISTORY_DAYS, house.ageDays) - 2;
  for (
    let daysAgo: number = house.lastRunDaysAgo;
    daysAgo < oldest;
    daysAgo += house.habitDays + Math.round(6 * (dice.uniform() - 0.5))
  ) {
    // Runs are made in working hours.
    const atMs = Math.floor((todayMs - daysAgo * DAY_MS) / DAY_MS) * DAY_MS + (8.5 + 7 * dice.uniform()) * 3_600_000;
    const cleaned = dice.uniform() < 0.12;
    runs.push({
      loop: house.key,
      startedAt: new Date(atMs).toISOString(),
      by: dice.uniform() < 0.7 ? 'Operator A' : 'Operator B',
      passes: Array.from({ length: cleaned ? 2 : 1 }, () => measure(house, atMs, todayMs, seed, lots, dice)),
    });
  }
  return runs;
}

/** The probe goes through its cups: rinse, cup, two minutes, at one reading a second. */
function measure(
  house: HousePh,
  atMs: number,
  todayMs: number,
  seed: number,
  lots: readonly DatedLot[],
  dice: Chance,
): BundleCapture[] {
  const truth = truthOf(house, seed, (todayMs - atMs) / DAY_MS);
  const probe = new Body({
    senses: { ph: { of: 'ph' } },
    truth: () => truth,
    process: house.process,
    seed: Math.floor(dice.uniform() * 2 ** 31),
    atMs,
    roomC: 23 + dice.normal(),
  });
  let clockMs = atMs;
  const pass = (seconds: number) => {
    probe.step(seconds, clockMs);
    clockMs += 1000 * seconds;
  };
  return house.pointSet.map((standardId) => {
    probe.moveTo('rinse');
    for (let i = 0; i < 10; i++) pass(1);
    probe.blot();
    probe.moveTo(`cup-${standardId.replace('technical-', '')}`);
    for (let i = 0; i < 8; i++) pass(1);
    probe.wiggle();
    const samples: [number, number, number][] = [];
    for (let t = 0; t <= DWELL_S; t++) {
      pass(1);
      const { electrodes, temperatureC } = probe.shown();
      samples.push([t, round(electrodes['ph']!, 1), round(temperatureC, 2)]);
    }
    const lot = lots.find((l) => l.standardId === standardId && l.fromMs <= atMs);
    return { standardId, lot: lot?.key ?? '', samples };
  });
}

const round = (value: number, digits: number) => Math.round(value * 10 ** digits) / 10 ** digits;

import type { BundleCapture, BundleDoses, BundleLoop, BundleLot, BundleReadings, BundleRun } from '@frustum/formats';
import { Body } from '../physics/body.ts';
import { chance, seedOf, type Chance } from '../physics/chance.ts';
import { houseBodies } from './bodies.ts';
import { channelOf, OTHERS, type HouseLoop, type Stands } from './others.ts';

const DAY_MS = 86_400_000;
/** s in a cup before its reading is kept */
const DWELL_S = 240;
const READING_DAYS = 7;
const READING_STEP_S = 600;
const AGEING_STEPS = 24;

const isoDay = (ms: number) => new Date(ms).toISOString().slice(0, 10);
const round = (value: number) => Number(value.toPrecision(7));

/**
 * The loops of the house other than pH, with their bottles, runs and readings, measured in the simulated bodies.
 *
 * @param some only these loops
 */
export function othersOf(todayMs: number, seed: number, stands: Stands, some = OTHERS) {
  const lots = [...lotsOf(todayMs), ...oddLotsOf(todayMs)];
  return {
    loops: some.map((loop): BundleLoop => loopOf(loop, todayMs, stands)),
    lots: lots.map(({ key, standardId, label, expiresOn, openedOn }): BundleLot => ({
      key,
      standardId,
      label,
      expiresOn,
      openedOn,
    })),
    runs: some.flatMap((loop) => loop.runsDaysAgo.map((daysAgo) => runOf(loop, daysAgo, todayMs, seed, lots))),
    readings: some.map((loop) => readingsOf(loop, todayMs, seed)),
    doses: some.flatMap((loop) => dosesOf(loop, todayMs, seed)),
  };
}

const DOSED_DAYS = 240;

/** Salts by hand, every fourth day, after a look at what the tip shows. Invented. */
function dosesOf({ key, settings }: HouseLoop, todayMs: number, seed: number): BundleDoses[] {
  if (settings['ion'] !== 'potassium') return [];
  const dice = chance(seedOf(seed, `${key} doses`));
  const given = Array.from({ length: DOSED_DAYS / 4 }, (_, i): [string, number] => [
    new Date(todayMs - (DOSED_DAYS - 4 * i) * DAY_MS + Math.round(dice.uniform() * 300) * 60_000).toISOString(),
    5 * Math.max(1, Math.round(5 + dice.normal())),
  ]);
  return [{ loop: key, what: 'potassium nitrate', unit: 'g', given }];
}

function loopOf(loop: HouseLoop, todayMs: number, stands: Stands): BundleLoop {
  const { key, name, place, family, settings, workingValue, workingC, tolerance, intervalDays, pointSet } = loop;
  return {
    key,
    name,
    place,
    family,
    settings,
    ...(loop.takes ? { takes: loop.takes } : {}),
    workingValue,
    workingC,
    tolerance,
    intervalDays,
    controls: loop.controls ?? '',
    ...(loop.controlAction ? { controlAction: loop.controlAction } : {}),
    ...(loop.referenceGroup ? { referenceGroup: loop.referenceGroup } : {}),
    ...(loop.surroundings ? { surroundings: loop.surroundings } : {}),
    sensor: { name: `${name} sensor`, serial: loop.serial, fittedOn: isoDay(todayMs - loop.ageDays * DAY_MS) },
    pointSet,
    channel: channelOf(loop, stands) as BundleLoop['channel'],
  };
}

/** A new bottle of each standard every hundred days. */
function lotsOf(todayMs: number) {
  const every = 100;
  const ids = [...new Set(OTHERS.flatMap((l) => l.measured.map(([id]) => id)))].filter(
    // Air comes from no bottle, and sulfite is mixed on the day.
    (id) => !['air', 'moist-air', 'zero-oxygen', 'sample', 'thermometers'].includes(id),
  );
  return ids.flatMap((standardId, k) =>
    Array.from({ length: 4 }, (_, i) => {
      const fromMs = todayMs - (3 + k + i * every) * DAY_MS;
      return {
        key: `lot-${standardId}-${i}`,
        standardId,
        label: `${String.fromCharCode(65 + (k % 26))}X-${60 - i}`,
        fromMs,
        openedOn: isoDay(fromMs),
        expiresOn: isoDay(fromMs + 365 * DAY_MS),
      };
    }).reverse(),
  );
}

/** Bottles that are not what they say, once each. */
function oddLotsOf(todayMs: number): DatedLot[] {
  const odd = new Map(OTHERS.flatMap(({ oddLot }) => (oddLot ? [[oddLot.label, oddLot] as const] : [])));
  return [...odd.values()].map(({ standardId, label, openedDaysAgo }) => {
    const fromMs = todayMs - openedDaysAgo * DAY_MS;
    const [openedOn, expiresOn] = [isoDay(fromMs), isoDay(fromMs + 365 * DAY_MS)];
    return { key: `lot-${label}`, standardId, label, fromMs, openedOn, expiresOn };
  });
}

type DatedLot = ReturnType<typeof lotsOf>[number];

/** What a loop's body was so many days ago, with the bottle that was open then. */
function bodyAgo({ body, oddLot }: HouseLoop, seed: number, daysAgo: number) {
  const lotOffMv = oddLot && daysAgo < oddLot.openedDaysAgo ? oddLot.offMv : 0;
  const made = houseBodies(seed, -daysAgo).find((b) => b.key === body)!;
  return { ...made, truth: { ...made.truth, lotOffMv } };
}

/** @param daysAgo asked again whenever time has passed */
function bodyOf(loop: HouseLoop, seed: number, atMs: number, daysAgo: () => number, dice: Chance): Body {
  let made = bodyAgo(loop, seed, daysAgo());
  let madeFor = daysAgo();
  const { senses, process } = made;
  const ours = Math.floor(dice.uniform() * 2 ** 31);
  return new Body({
    senses,
    truth: () => {
      if (daysAgo() !== madeFor) made = bodyAgo(loop, seed, (madeFor = daysAgo()));
      return made.truth;
    },
    process,
    seed: ours,
    atMs,
    roomC: 22 + dice.normal(),
  });
}

/** Rinse, cup, and so many seconds of it, at one reading a second; a sample is read where the sensor hangs. */
function runOf(loop: HouseLoop, daysAgo: number, todayMs: number, seed: number, lots: readonly DatedLot[]): BundleRun {
  const dice = chance(seedOf(seed, `${loop.key} ${daysAgo}`));
  const atMs = Math.floor((todayMs - daysAgo * DAY_MS) / DAY_MS) * DAY_MS + (8.5 + 7 * dice.uniform()) * 3_600_000;
  const body = bodyOf(loop, seed, atMs, () => daysAgo, dice);
  let clockMs = atMs;
  const wait = (seconds: number) => {
    for (let i = 0; i < 4 * seconds; i++) body.step(0.25, clockMs + 250 * i);
    clockMs += 1000 * seconds;
  };
  const pass = loop.measured.map(([standardId, place]): BundleCapture => {
    if (place !== 'process') {
      body.moveTo('rinse');
      wait(10);
      body.blot();
      body.moveTo(place);
      if (place === 'air') body.blot();
      wait(6);
      body.tap();
    }
    const samples: [number, number, number][] = [];
    for (let t = 0; t <= DWELL_S; t++) {
      wait(1);
      const shown = body.shown();
      samples.push([t, round(loop.signal(shown)), round(shown.temperatureC)]);
    }
    const lot = lots.findLast((l) => l.standardId === standardId && l.fromMs <= atMs);
    return { standardId, lot: lot?.key ?? '', samples };
  });
  const by = dice.uniform() < 0.7 ? 'Operator A' : 'Operator B';
  const [value, unit, plusMinus, temperatureC] = loop.sample ?? [];
  if (value === undefined) return { loop: loop.key, startedAt: new Date(atMs).toISOString(), by, passes: [pass] };
  // What the instrument beside it found: the water as it is, with the instrument's own spread.
  const found = value + (plusMinus! / 2) * dice.normal() * 0.5;
  const entry =
    unit === '°C'
      ? { kind: 'thermometers' as const, readings: [found, found + 0.1], plusMinus: plusMinus! }
      : {
          kind: 'sample' as const,
          value: round(found),
          unit: unit!,
          plusMinus: plusMinus!,
          temperatureC: temperatureC!,
        };
  return { loop: loop.key, startedAt: new Date(atMs).toISOString(), by, passes: [pass], entry };
}

/** Recent readings of the sensor in its water. */
function readingsOf(loop: HouseLoop, todayMs: number, seed: number): BundleReadings {
  const count = Math.min(loop.ageDays, READING_DAYS) * (86_400 / READING_STEP_S);
  const fromMs = todayMs - count * READING_STEP_S * 1000;
  const dice = chance(seedOf(seed, `${loop.key} readings`));
  let daysAgo = 0;
  const body = bodyOf(loop, seed, fromMs, () => daysAgo, dice);
  const values = Array.from({ length: count }, (_, i): [number, number] => {
    // It ages a little every few hours, up to what it is when its stand-in takes over.
    daysAgo = Math.floor((count - i) / AGEING_STEPS) * ((AGEING_STEPS * READING_STEP_S) / 86_400);
    body.step(READING_STEP_S, fromMs + i * READING_STEP_S * 1000);
    const shown = body.shown();
    return [round(loop.signal(shown)), round(shown.temperatureC)];
  });
  return { loop: loop.key, from: new Date(fromMs).toISOString(), stepSeconds: READING_STEP_S, values };
}

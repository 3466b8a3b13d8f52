import type { Made } from '../devices/stand-in.ts';
import { electrodeAt, referenceAt, SOUND, type Life } from '../physics/ageing.ts';
import { seedOf } from '../physics/chance.ts';
import type { Sense } from '../physics/electrode.ts';
import type { Process } from '../physics/process.ts';
import { BARE_BODY, type BodyTruth } from '../physics/truth.ts';
import { DISPLAY, LINE_1, LINE_2, MAKE_UP, REMINERALISED, RINSE_LINE, TIDEWATER, truthOf } from './tidewater.ts';

/** A body of the invented house that hangs on a wire of its stand-ins. */
export interface HouseBody extends Made {
  readonly key: string;
}

const cups = (...names: string[]) => names.map((name) => `cup-${name}`);
const PH_CUPS = cups('7.00', '4.01', '10.01');
const EC_CUPS = cups('1413 µS/cm', '2765 µS/cm', '12.88 mS/cm');
const ION_CUPS = cups('nitrate 10', 'nitrate 100', 'potassium 20', 'potassium 200');

const cell = (constant: number, gain: number): Partial<BodyTruth> => ({
  cell: { constant, gain, scaled: 0, filmUs: 2 / constant, mostUs: 2e6 },
});
/** A body of electrodes on one reference. */
function electrodes(lives: Readonly<Record<string, Life>>, days: number, seed: number): Partial<BodyTruth> {
  const made = Object.entries(lives).map(
    ([name, life]) => [name, electrodeAt(life, days, seedOf(seed, name))] as const,
  );
  return { reference: referenceAt(Object.values(lives)[0]!, days), electrodes: Object.fromEntries(made) };
}
const TIP: Life = { ...SOUND, slowSeconds: 60, slowShare: 0.25, megohm: 5, wanderMv: 2, newSlope: 0.96 };
const PLATINUM: Life = {
  ...SOUND,
  newSlope: 1,
  fastSeconds: 6,
  slowSeconds: 25,
  slowShare: 0.4,
  megohm: 0.01,
  wanderMv: 3,
};

const NITRATE_TIP: Sense = { of: 'nitrate', disturbs: { chloride: 0.006 } };
const POTASSIUM_TIP: Sense = { of: 'potassium' };

/** One body, whose chance is its own. */
const bodyOf = (
  seed: number,
  key: string,
  process: Process,
  senses: Readonly<Record<string, Sense>>,
  truth: Partial<BodyTruth>,
  offered: readonly string[],
): HouseBody => ({ key, process, senses, truth: { ...BARE_BODY, ...truth }, seed: seedOf(seed, key), cups: offered });

/** The seven pH loops; the multi-probe has two more tips and a cell on it. */
const phBodies = (seed: number, daysSince: number): HouseBody[] =>
  TIDEWATER.map((house) => {
    const multi = house.key === 'multi-probe';
    const made = bodyOf(
      seed,
      house.key,
      house.process,
      { ph: { of: 'ph' } },
      truthOf(house, seed, -daysSince),
      PH_CUPS,
    );
    if (!multi) return made;
    const tips = electrodes(
      { nitrate: { ...TIP, newZeroMv: 190 }, potassium: { ...TIP, newZeroMv: 40, wearPerDay: 0.0005 } },
      400 + daysSince,
      made.seed,
    );
    return {
      ...made,
      senses: { ...made.senses, nitrate: NITRATE_TIP, potassium: POTASSIUM_TIP },
      truth: { ...made.truth, ...cell(1, 0.985), electrodes: { ...made.truth.electrodes, ...tips.electrodes } },
      cups: [...PH_CUPS, ...ION_CUPS, ...EC_CUPS],
    };
  });

/**
 * All bodies of Tidewater House, by what they are plugged into nothing but by name: the seven pH loops first, in the order
 * of the transmitter's inputs.
 *
 * @param seed the plant
 * @param daysSince days since the house was born, so that probes go on ageing
 */
export function houseBodies(seed: number, daysSince = 0): HouseBody[] {
  return [...phBodies(seed, daysSince), ...otherBodies(seed, 400 + daysSince)];
}

type BodyArgs = Parameters<typeof bodyOf> extends [number, ...infer Rest] ? Rest : never;

/** What is measured beside pH. */
function otherBodies(seed: number, days: number): HouseBody[] {
  const body = (...of: BodyArgs) => bodyOf(seed, ...of);
  return [
    body(
      'display-orp',
      DISPLAY,
      { orp: { of: 'orp' } },
      electrodes({ orp: PLATINUM }, days, seedOf(seed, 'a')),
      cups('redox 430', 'redox pH 4'),
    ),
    body('display-temperature', DISPLAY, {}, {}, []),
    body('display-salinity', DISPLAY, {}, cell(1, 0.982), cups('S 35', '12.88 mS/cm')),
    body('line-1-ec', LINE_1, {}, { cell: { constant: 1, gain: 0.99, scaled: 0.07, filmUs: 2, mostUs: 2e6 } }, EC_CUPS),
    body('line-2-ec', LINE_2, {}, cell(1, 1.004), EC_CUPS),
    body('make-up', MAKE_UP, {}, cell(0.01, 1.01), cups('84 µS/cm')),
    body('remineralised-ec', REMINERALISED, {}, cell(1, 0.996), cups('84 µS/cm', '1413 µS/cm')),
    body(
      'remineralised-chloride',
      REMINERALISED,
      { chloride: { of: 'chloride' } },
      electrodes({ chloride: { ...TIP, newZeroMv: 120, newSlope: 0.93 } }, days, seedOf(seed, 'b')),
      cups('chloride 46', 'chloride 319'),
    ),
    body(
      'remineralised-nitrate',
      REMINERALISED,
      {},
      { optics: { zero: 0.05, gain: 0.96, dirt: 0.01, straylight: 0.1 } },
      cups('nitrate 5 as N', 'chlorine-free'),
    ),
    body('rinse-chlorine', RINSE_LINE, {}, { chlorine: { zeroNa: 1.5, slopeNa: 92, flow: 32 } }, cups('chlorine-free')),
    body(
      'display-oxygen',
      DISPLAY,
      {},
      // A dye that bleaches by a tenth in a year.
      { oxygen: { kind: 'cap', faded: 0.00028 * days, quenching: 0.096, fouled: 0 } },
      cups('water-saturated air', 'zero oxygen', 'air-saturated water'),
    ),
    body(
      'line-1-oxygen',
      LINE_1,
      {},
      { oxygen: { kind: 'membrane', zeroNa: 0.5, slopeNa: 2.75 - 0.0016 * days, fouled: 0 } },
      cups('water-saturated air', 'zero oxygen', 'air-saturated water'),
    ),
    body(
      'rinse-orp',
      RINSE_LINE,
      { orp: { of: 'orp' } },
      electrodes({ orp: { ...PLATINUM, newZeroMv: 14 } }, days, seedOf(seed, 'c')),
      cups('redox 430'),
    ),
  ];
}

import { type Settings, type Standard, type StandardPoint } from '@frustum/core';
import { chance as drawn, seawaterUs, type Chance } from '@frustum/sim';

/**
 * Bottles, thermometers, electrodes and waters that are drawn by equations of their own: what is true here is never asked
 * of the core. It shares with the core the published definitions (Nernst, Stern and Volmer, the weight of an ion), and the
 * figures that both call common practice: how wide a junction, a thermometer or a certificate is.
 */
export interface Calibrated {
  readonly points: readonly StandardPoint[];
  /** what a channel with such coefficients shows of the water, and what is in the water */
  readonly shows: (coefficients: { readonly zero: number; readonly sensitivity: number }) => number;
  readonly is: number;
}

export interface World {
  readonly name: string;
  readonly family: string;
  readonly settings?: Settings;
  /** where it works: what the plan says, which is also what is true of the mean water */
  readonly workingValue: number;
  readonly workingC: number;
  /** what the history leaves unknown of a coefficient that is held */
  readonly held?: { readonly zeroSd: number; readonly sensitivitySd: number };
  draw(by: Chance): Calibrated;
}

const K_OVER_E = (1000 * 1.380649e-23) / 1.602176634e-19;
/** mV for a factor of ten of one charge: k T ln 10 / e. */
const decade = (t: number) => K_OVER_E * (t + 273.15) * Math.LN10;
const THERMOMETER = 0.2;
const step = (value: number, by: number) => Math.round(value / by) * by;

/**
 * A bottle with its own printed table: true is a curve moved by what its certificate leaves open; printed is the curve
 * itself, rounded.
 */
function bottle(
  by: Chance,
  of: Pick<Standard, 'family' | 'unit' | 'name'>,
  curve: (t: number) => number,
  known: { readonly u: number; readonly digit: number; readonly relative?: boolean },
): { standard: Standard; true: (t: number) => number } {
  const { u, digit, relative = false } = known;
  // No two makings print the same last digit.
  const made = digit * (by.uniform() - 0.5);
  const own = (t: number) => curve(t) + made;
  const off = by.normal();
  const table = Array.from({ length: 9 }, (_, i) => 5 + 5 * i)
    .filter((t) => t < 36 || of.name !== 'S 35')
    .map((t) => [t, digit ? step(own(t), digit) : own(t)] as const);
  return {
    standard: {
      ...of,
      id: of.name,
      nominal: own(25),
      nominalAtC: 25,
      table,
      uncertainty: relative ? u * Math.abs(own(25)) : u,
      tableStep: digit,
      source: 'drawn',
    },
    true: (t) => own(t) + off * (relative ? u * own(t) : u),
  };
}

/** A cup as it is read: settled but for its noise, on a display with steps. */
function cup(
  by: Chance,
  standard: Standard,
  signal: number,
  trueC: number,
  thermometer: number,
  of: { readonly settled: number; readonly resolution: number; readonly ofLoop?: boolean; readonly repeats?: number },
): StandardPoint {
  const { settled, resolution, ofLoop = false, repeats = 0 } = of;
  // What is still to come is the same each time; a wiggle in between is not.
  const common = settled * by.normal();
  const look = () => step(signal + common + repeats * by.normal(), resolution);
  const looks = repeats ? [look(), look()] : [look()];
  const mean = looks.reduce((s, x) => s + x, 0) / looks.length;
  return {
    standard,
    lotId: standard.name,
    temperatureC: trueC + thermometer,
    signal: mean,
    signalUncertainty: settled,
    ...(repeats ? { repeatability: { uncertainty: Math.abs(looks[0]! - looks[1]!) / 2, degreesOfFreedom: 1 } } : {}),
    resolution,
    byLoopThermometer: ofLoop,
  };
}

/** Potassium hydrogen phthalate, phosphate and borax by Bates' equation (1973, from memory), as technical buffers print them. */
const BATES = {
  '4': (t: number) => bates(t, 1678.3, -9.8357, 0.034946, -2.4804e-5),
  '7': (t: number) => 0.135 + bates(t, 3459.39, -21.0574, 0.073301, -6.2266e-5),
  '10': (t: number) => bates(t, 2557.1, -4.2846, 0.019185, 0),
} as const;
function bates(t: number, a: number, b: number, c: number, d: number): number {
  const k = t + 273.15;
  return a / k + b + c * k + d * k * k;
}

function glass(
  name: string,
  buffers: readonly (keyof typeof BATES)[],
  at: {
    cupC: number;
    value: number;
    workingC: number;
    ofLoop?: boolean;
    repeats?: number;
    family?: 'ph' | 'ph-shown' | 'ph-counts';
  },
): World {
  const { cupC, value, workingC, ofLoop = false, repeats = 0, family = 'ph' } = at;
  const held = { zeroSd: 3, sensitivitySd: buffers.length > 1 ? 0 : 0.01 };
  return {
    name,
    family,
    ...(family === 'ph-counts' ? { settings: { atSeven: 20_000, aPh: -592 } } : {}),
    workingValue: value,
    workingC,
    held,
    draw(by) {
      const slope = buffers.length > 1 ? 0.92 + 0.08 * by.uniform() : 1 + held.sensitivitySd * by.normal();
      const crossing = 7 + 0.3 * by.normal();
      const there = -20 + 40 * by.uniform();
      const mv = (ph: number, t: number) => there - slope * decade(t) * (ph - crossing);
      const cupOff = THERMOMETER * by.normal();
      const workOff = ofLoop ? cupOff : THERMOMETER * by.normal();
      const junction = 0.01 * by.normal();
      const signalOf = (e: number, tRead: number) =>
        family === 'ph' ? e : family === 'ph-shown' ? 7 - e / decade(tRead) : 20_000 + 10 * e;
      const per = family === 'ph' ? 1 : family === 'ph-shown' ? 1 / 59 : 10;
      const points = buffers.map((b) => {
        const poured = bottle(by, { family: 'ph', unit: 'pH', name: b }, BATES[b], { u: 0.01, digit: 0.01 });
        const e = mv(poured.true(cupC), cupC);
        return cup(by, poured.standard, signalOf(e, cupC + cupOff), cupC, cupOff, { settled: 0.3 * per, resolution: 0.1 * per, ofLoop, repeats: repeats * per }); // prettier-ignore
      });
      const e = mv(value + junction, workingC);
      const t = workingC + workOff;
      return {
        points,
        is: value,
        shows: ({ zero, sensitivity }) =>
          family === 'ph'
            ? 7 - (e - zero) / (sensitivity * decade(t))
            : family === 'ph-shown'
              ? 7 + (7 - e / decade(t) - 7 - zero) / sensitivity
              : 7 + (20_000 + 10 * e - 20_000 - zero) / (sensitivity * -592 * (decade(t) / decade(25))),
      };
    },
  };
}

function tip(name: string, pairsC: readonly number[], workingC: number, value: number, slopeMoves: number): World {
  return {
    name,
    family: 'ion',
    settings: { ion: 'nitrate' },
    workingValue: value,
    workingC,
    draw(by) {
      const [e0, e0PerC] = [180 + 30 * by.normal(), pairsC.length > 2 ? 0.4 * by.normal() : 0];
      const [s, sPerC] = [0.95 + 0.03 * by.normal(), slopeMoves * by.normal()];
      const mv = (a: number, t: number) => e0 + e0PerC * (t - 25) - (s + sPerC * (t - 25)) * decade(t) * Math.log10(a);
      const off = THERMOMETER * by.normal();
      const course = (at25: number) => (t: number) => at25 * (1 - 0.0004 * (t - 25) - 4e-6 * (t - 25) ** 2);
      const [low, high] = [9.6, 92].map((at25, i) =>
        bottle(by, { family: 'ion', unit: 'mg/L activity', name: i ? 'high' : 'low' }, course(at25), {
          u: 0.01,
          digit: 0,
          relative: true,
        }),
      ) as [ReturnType<typeof bottle>, ReturnType<typeof bottle>];
      const order = [low, high, high, low];
      const points = pairsC.map((t, i) => {
        const { standard, true: truth } = order[i]!;
        return cup(by, standard, mv(truth(t), t), t, off, { settled: 0.2, resolution: 0.1 });
      });
      const e = mv(value, workingC) + 0.6 * by.normal();
      const t = workingC + THERMOMETER * by.normal();
      return { points, is: value, shows: ({ zero, sensitivity }) => 10 ** (-(e - zero) / (sensitivity * decade(t))) };
    },
  };
}

/** Dilute potassium chloride: a parabola through three rows of the handbook's 0.01 mol/L. */
const kcl = (at25: number) => (t: number) => at25 * (1 + 0.01935 * (t - 25) + 5.4e-5 * (t - 25) ** 2);
const inCells = { family: 'conductivity', unit: 'µS/cm' } as const;

function cell(
  name: string,
  at: { cupC: number; value: number; workingC: number; ofLoop: boolean; inAir: boolean },
): World {
  const { cupC, value, workingC, ofLoop, inAir } = at;
  return {
    name,
    family: 'conductivity',
    settings: { cellConstant: 1, alpha: 2 },
    workingValue: value,
    workingC,
    held: { zeroSd: 0.5, sensitivitySd: 0 },
    draw(by) {
      const gain = 1 + 0.04 * by.normal();
      const leak = inAir ? 2 * by.normal() : 0.5 * by.normal();
      const cupOff = THERMOMETER * by.normal();
      const workOff = ofLoop ? cupOff : THERMOMETER * by.normal();
      const poured = bottle(by, { ...inCells, name: '1413' }, kcl(1413), { u: 0.001, digit: 1, relative: true });
      const as = { settled: 1, resolution: 0.5, ofLoop };
      const points = [
        ...(inAir
          ? [cup(by, { ...bottle(by, { ...inCells, name: 'air' }, () => 0, { u: 0.01, digit: 0 }).standard, nominal: 0, inAir: true }, leak + gain * 0.01 * by.normal(), cupC, cupOff, { ...as, settled: 0.1 })] // prettier-ignore
          : []),
        cup(by, poured.standard, leak + gain * poured.true(cupC), cupC, cupOff, as),
      ];
      const alpha = 0.02 + 0.001 * by.normal();
      const g = leak + gain * value * (1 + alpha * (workingC - 25));
      const t = workingC + workOff;
      return { points, is: value, shows: ({ zero, sensitivity }) => (g - zero) / sensitivity / (1 + 0.02 * (t - 25)) };
    },
  };
}

/** Seawater: rows of gsw 3.6.16, drawn as curves by the simulator; read backwards by halving. */
function seaSalinity(us: number, t: number): number {
  let [low, high] = [6, 40];
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (seawaterUs(middle, t) < us) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

function sea(name: string, ofLoop: boolean, cupC: number, workingC: number): World {
  const value = 34;
  return {
    name,
    family: 'salinity',
    settings: { cellConstant: 1 },
    workingValue: value,
    workingC,
    held: { zeroSd: 5, sensitivitySd: 0 },
    draw(by) {
      const gain = 1 + 0.03 * by.normal();
      const leak = 5 * by.normal();
      const cupOff = THERMOMETER * by.normal();
      const workOff = ofLoop ? cupOff : THERMOMETER * by.normal();
      const poured = bottle(by, { ...inCells, name: 'S 35' }, (t) => seawaterUs(35, t), { u: 0.0025, digit: 0, relative: true }); // prettier-ignore
      const points = [
        cup(by, poured.standard, leak + gain * poured.true(cupC), cupC, cupOff, { settled: 10, resolution: 1, ofLoop }),
      ];
      const g = leak + gain * seawaterUs(value, workingC);
      const composition = 0.02 * by.normal();
      const t = workingC + workOff;
      // Its firmware has the scale itself; here, the law that this water follows.
      return {
        points,
        is: value,
        shows: ({ zero, sensitivity }) => seaSalinity((g - zero) / sensitivity, t) + composition,
      };
    },
  };
}

/** Conductivity of pure water: an Arrhenius law through 0.0550 at 25 °C. */
const pure = (t: number) => 0.055 * Math.exp(5400 * (1 / 298.15 - 1 / (t + 273.15)));
function purest(name: string, value: number, workingC: number): World {
  return {
    name,
    family: 'resistivity',
    settings: { cellConstant: 0.01, alpha: 2 },
    workingValue: value,
    workingC,
    held: { zeroSd: 0.002, sensitivitySd: 0 },
    draw(by) {
      const gain = 1 + 0.03 * by.normal();
      const leak = 0.002 * by.normal();
      const poured = bottle(by, { ...inCells, name: '84' }, kcl(84), { u: 0.005, digit: 0, relative: true });
      const off = THERMOMETER * by.normal();
      const points = [
        cup(by, poured.standard, leak + (gain * poured.true(22)) / 0.01, 22, off, { settled: 2, resolution: 0.01 }),
      ];
      const salts = 1 / value - 0.055;
      const alpha = 0.02 + 0.001 * by.normal();
      const share = 1 + 0.01 * Math.min(1, Math.abs(workingC - 25) / 5) * by.normal();
      const kappa = pure(workingC) * share + salts * (1 + alpha * (workingC - 25));
      const g = leak + (gain * kappa) / 0.01;
      const t = workingC + THERMOMETER * by.normal();
      const shows = ({ zero, sensitivity }: { zero: number; sensitivity: number }) =>
        1 / (0.055 + (((g - zero) / sensitivity) * 0.01 - pure(t)) / (1 + 0.02 * (t - 25)));
      return { points, is: value, shows };
    },
  };
}

function plain(
  name: string,
  family: string,
  of: {
    value: number;
    unit: Standard['unit'];
    standards: readonly { at: number; u: number }[];
    settled: number;
    resolution: number;
    row: number;
    held?: World['held'];
    settings?: Settings;
  },
): World {
  const { value, unit, standards, settled, resolution, row, held = { zeroSd: 0, sensitivitySd: 0 }, settings } = of;
  return {
    name,
    family,
    ...(settings ? { settings } : {}),
    workingValue: value,
    workingC: 25,
    held,
    draw(by) {
      const both = standards.length > 1;
      const per = family === 'chlorine' ? 100 : 1;
      const gain = both || held.sensitivitySd === 0 ? (held.sensitivitySd === 0 && !both && held.zeroSd === 0 ? 1 : 1 + 0.03 * by.normal()) : 1 + held.sensitivitySd * by.normal(); // prettier-ignore
      const zero = both || held.zeroSd === 0 ? 2 * settled * by.normal() : held.zeroSd * by.normal();
      const points = standards.map(({ at, u }, i) => {
        const known = { family, unit: unit!, name: `${i}` };
        const poured = bottle(by, known, () => at, { u, digit: 0 });
        return cup(by, { ...poured.standard, nominal: at }, zero + gain * per * poured.true(25), 25, THERMOMETER * by.normal(), { settled, resolution }); // prettier-ignore
      });
      const signal = zero + gain * per * (value + row * by.normal());
      return { points, is: value, shows: (c) => (signal - c.zero) / c.sensitivity / per };
    },
  };
}

function redox(name: string, cupC: number): World {
  return {
    name,
    family: 'orp',
    settings: { reference: 'silver-chloride-saturated', scale: 'own' },
    workingValue: 320,
    workingC: 26,
    held: { zeroSd: 0, sensitivitySd: 0 },
    draw(by) {
      const offset = 10 * by.normal();
      const cupOff = THERMOMETER * by.normal();
      // Ferrocyanide against its own label's reference, the same as the probe's.
      const poured = bottle(by, { family: 'orp', unit: 'mV', name: 'redox' }, (t) => 231.4 - 1.51 * (t - 25), { u: 2.5, digit: 1 }); // prettier-ignore
      const standard = { ...poured.standard, against: 'silver-chloride-saturated' };
      const points = [cup(by, standard, offset + poured.true(cupC), cupC, cupOff, { settled: 0.5, resolution: 0.5 })];
      const signal = offset + 320 + 2 * by.normal();
      return { points, is: 320, shows: ({ zero }) => signal - zero };
    },
  };
}

/** Vapour over water by Magnus' formula, kPa. */
const vapour = (t: number) => 0.61094 * Math.exp((17.625 * t) / (243.04 + t));
const oxygenKPa = (t: number, air: number) => 0.20946 * (air - vapour(t));

function oxygen(name: string, kind: 'membrane' | 'optical', cupC: number, workingC: number): World {
  const value = 90;
  const share = kind === 'membrane' ? 0.01 : 0.005;
  const full = oxygenKPa(25, 101.325);
  const passes = (t: number) =>
    kind === 'membrane' ? (60 / full) * Math.exp(0.03 * (t - 25)) : (2 / full) * (1 + 0.01 * (t - 25));
  const origin = kind === 'membrane' ? 0 : 1;
  return {
    name,
    family: `oxygen-${kind}`,
    settings: { writtenIn: '% sat', inAir: kind === 'membrane' ? 60 : 3, perC: kind === 'membrane' ? 3 : 1 },
    workingValue: value,
    workingC,
    held: { zeroSd: kind === 'membrane' ? 0.1 : 0.004, sensitivitySd: 0 },
    draw(by) {
      const gain = 1 + 0.1 * by.normal();
      const zero = this.held!.zeroSd * by.normal();
      const cupOff = THERMOMETER * by.normal();
      const poured = bottle(by, { family: `oxygen-${kind}`, unit: '% sat', name: 'moist air' }, () => 100, { u: 0.5, digit: 0 }); // prettier-ignore
      const signalIn = (percent: number, t: number) =>
        origin + zero + gain * passes(t) * (percent / 100) * oxygenKPa(t, 101.325);
      const as = kind === 'membrane' ? { settled: 0.1, resolution: 0.01 } : { settled: 0.002, resolution: 0.001 };
      const points = [
        cup(by, { ...poured.standard, inAir: true }, signalIn(poured.true(cupC), cupC), cupC, cupOff, as),
      ];
      const signal = signalIn(value * (1 + share * by.normal()), workingC);
      const t = workingC + THERMOMETER * by.normal();
      return {
        points,
        is: value,
        shows: (c) => ((signal - origin - c.zero) / c.sensitivity / passes(t) / oxygenKPa(t, 101.325)) * 100,
      };
    },
  };
}

export const WORLDS: readonly World[] = [
  glass('pH, two buffers, another thermometer in the cups', ['7', '4'], { cupC: 21, value: 5.8, workingC: 24 }),
  glass('pH, two buffers, two settlings each', ['7', '10'], { cupC: 24, value: 8.2, workingC: 26, repeats: 0.6, ofLoop: true }),
  glass('pH, three buffers, the loop’s thermometer', ['4', '7', '10'], { cupC: 20, value: 8.2, workingC: 32, ofLoop: true }),
  glass('pH, one buffer, the slope held', ['7'], { cupC: 22, value: 7.9, workingC: 25 }),
  glass('pH shown only, two buffers', ['7', '4'], { cupC: 22, value: 6.2, workingC: 22, family: 'ph-shown', ofLoop: true }),
  glass('pH, raw counts, two buffers', ['7', '4'], { cupC: 21, value: 5.8, workingC: 25, family: 'ph-counts' }),
  tip('ion, two points at the water’s temperature', [25, 25], 25, 40, 0),
  tip('ion, three points, 20 and 26 °C, water 24 °C', [20, 20, 26], 24, 40, 0),
  tip('ion, four points, 20 and 30 °C, water 26 °C', [20, 20, 30, 30], 26, 120, 0.0005),
  tip('ion, four points, 20 and 26 °C, water 31 °C', [20, 20, 26, 26], 31, 40, 0.0005),
  tip('ion, four points, 30 and 20 °C, water 12 °C', [30, 30, 20, 20], 12, 40, 0.0005),
  cell('conductivity, one standard, the loop’s thermometer', { cupC: 22, value: 1800, workingC: 29, ofLoop: true, inAir: false }),
  cell('conductivity, air and one standard, another thermometer', { cupC: 20, value: 900, workingC: 18, ofLoop: false, inAir: true }),
  sea('salinity, the loop’s thermometer', true, 24, 26),
  sea('salinity, another thermometer', false, 24, 26),
  purest('resistivity, 10 MΩ·cm at 20 °C', 10, 20),
  purest('resistivity, 1 MΩ·cm at 10 °C', 1, 10),
  redox('ORP, one standard', 22),
  plain('temperature, one bath', 'temperature', { value: 25.5, unit: '°C', standards: [{ at: 25.5, u: 0.07 }], settled: 0.02, resolution: 0.1, row: 0.05 }),
  plain('temperature, two baths', 'temperature', { value: 25, unit: '°C', standards: [{ at: 10, u: 0.07 }, { at: 40, u: 0.07 }], settled: 0.02, resolution: 0.1, row: 0.05 }),
  plain('nitrate, blank and standard', 'nitrate', { value: 4, unit: 'mg/L NO3-N', standards: [{ at: 0, u: 0.01 }, { at: 5, u: 0.05 }], settled: 0.02, resolution: 0.01, row: 0.05 }),
  plain('free chlorine, one sample', 'chlorine', { value: 0.8, unit: 'mg/L', standards: [{ at: 0.85, u: 0.02 }], settled: 0.3, resolution: 0.1, row: 0.016, held: { zeroSd: 1, sensitivitySd: 0 } }),
  oxygen('oxygen, membrane, moist air', 'membrane', 22, 27),
  oxygen('oxygen, optical, moist air', 'optical', 22, 27),
]; // prettier-ignore

export const chanceOf = (seed: number): Chance => drawn(seed);

import { curveThrough, on } from './curves.ts';
import { thermalMv } from './thermal.ts';
import { freshUs, kclUs, pureUs, seawaterUs } from './waters.ts';

/** Free ions, mmol/L. */
export type IonName = 'nitrate' | 'potassium' | 'chloride';
export type Ions = Readonly<Record<IonName, number>>;

/** What a sensor meets. Everything at a temperature in °C. */
export interface Liquid {
  ph(temperatureC: number): number;
  /** how strongly it holds its pH against what is mixed in; a buffer = 1 */
  readonly buffering: number;
  /** conductivity, µS/cm */
  us(temperatureC: number): number;
  /** redox potential against standard hydrogen, mV */
  eh(temperatureC: number): number;
  /** how strongly it holds its redox potential; a redox standard = 1 */
  readonly poise: number;
  readonly ions: Ions;
  /** free chlorine, mg/L */
  readonly chlorine: number;
  /** share of what it holds in equilibrium with moist air at its own temperature */
  readonly oxygen: number;
  /** a buffer or standard: the reference meets what it was made for, and a blocked junction does not show */
  readonly standard: boolean;
}

const NO_IONS: Ions = { nitrate: 0, potassium: 0, chloride: 0 };
const PLAIN: Omit<Liquid, 'us'> = {
  ph: () => 6.2,
  buffering: 0.003,
  eh: () => 350,
  poise: 0.05,
  ions: NO_IONS,
  chlorine: 0,
  oxygen: 1,
  standard: false,
};

/**
 * The technical buffers. Shares the printed tables with the core, since there is no other source for them, and reaches a
 * value by another route: one least-squares cubic in temperature, no interpolation.
 */
const TECHNICAL: Readonly<Record<string, readonly (readonly [number, number])[]>> = {
  '4.01': [
    [5, 4.0],
    [10, 4.0],
    [15, 4.0],
    [20, 4.0],
    [25, 4.01],
    [30, 4.02],
    [35, 4.02],
    [40, 4.03],
    [50, 4.06],
  ],
  '7.00': [
    [0, 7.12],
    [5, 7.09],
    [10, 7.06],
    [15, 7.04],
    [20, 7.02],
    [25, 7.0],
    [30, 6.99],
    [35, 6.98],
    [40, 6.97],
    [50, 6.97],
  ],
  '9.00 (20 °C)': [
    [0, 9.24],
    [5, 9.16],
    [10, 9.11],
    [15, 9.05],
    [20, 9.0],
    [25, 8.95],
    [30, 8.91],
    [35, 8.88],
    [40, 8.85],
    [50, 8.79],
  ],
  '10.01': [
    [0, 10.32],
    [5, 10.25],
    [10, 10.18],
    [15, 10.12],
    [20, 10.06],
    [25, 10.01],
    [30, 9.97],
    [35, 9.93],
    [40, 9.89],
    [50, 9.83],
  ],
};
const BUFFERS = new Map(Object.entries(TECHNICAL).map(([name, rows]) => [name, curveThrough(rows, 3)]));

/**
 * Equimolal phosphate by the equation of Bates (1969), A/T + B + C·T + D·T², written down from memory; within 0.001 of
 * the table of its pH(S) at 5, 25 and 50 °C. The core has the table.
 */
function equimolalPhosphate(temperatureC: number): number {
  const kelvin = temperatureC + 273.15;
  return 3459.39 / kelvin - 21.0574 + 0.073301 * kelvin - 6.2266e-5 * kelvin ** 2;
}

/**
 * pH of a buffer.
 *
 * @param name '4.01', '7.00', '9.00 (20 °C)', '10.01' or 'phosphate 6.865'
 */
export function bufferPh(name: string, temperatureC: number): number {
  if (name === 'phosphate 6.865') return equimolalPhosphate(temperatureC);
  const curve = BUFFERS.get(name);
  if (!curve) throw new Error(`the stand-in has no buffer ${name}`);
  return on(curve, temperatureC);
}

/** Ferri/ferrocyanide: a parabola through three values of Nordstrom (1977), 20, 25 and 30 °C; the core has the formula. */
const CYANIDE = curveThrough(
  [
    [20, 442.76],
    [25, 430.28],
    [30, 417.61],
  ],
  2,
);

const buffer = (name: string): Liquid => ({
  ...PLAIN,
  ph: (t) => bufferPh(name, t),
  buffering: 1,
  us: (t) => freshUs(5000, t),
  ions: { ...NO_IONS, potassium: 40 },
  standard: true,
});
const conducting = (us: (temperatureC: number) => number, ions: Ions = NO_IONS): Liquid => ({
  ...PLAIN,
  us,
  ions,
  standard: true,
});
/** Equal parts of potassium and an anion. */
const salt = (anion: 'nitrate' | 'chloride', millimolar: number): Liquid =>
  conducting((t) => freshUs(138 * millimolar, t), { ...NO_IONS, potassium: millimolar, [anion]: millimolar });

/** Molar masses, g/mol: nitrogen 14.007, KCl solution by its millimoles. IUPAC 2021 weights. */
const NITROGEN = 14.007;

/** Everything that can be poured into a cup, by name. The names are the standards' words. */
export const POURED: Readonly<Record<string, Liquid>> = {
  '4.01': buffer('4.01'),
  '7.00': buffer('7.00'),
  '9.00 (20 °C)': buffer('9.00 (20 °C)'),
  '10.01': buffer('10.01'),
  'phosphate 6.865': buffer('phosphate 6.865'),
  '84 µS/cm': conducting((t) => kclUs(84, t)),
  '1413 µS/cm': conducting((t) => kclUs(1413, t), { ...NO_IONS, potassium: 10, chloride: 10 }),
  '2765 µS/cm': conducting((t) => kclUs(2765, t), { ...NO_IONS, potassium: 20, chloride: 20 }),
  '12.88 mS/cm': conducting((t) => kclUs(12_880, t), { ...NO_IONS, potassium: 100, chloride: 100 }),
  'S 35': conducting((t) => seawaterUs(35, t), { ...NO_IONS, potassium: 10, chloride: 546 }),
  'redox 430': { ...conducting((t) => freshUs(15_000, t)), eh: (t) => on(CYANIDE, t), poise: 1 },
  'redox pH 4': {
    ...buffer('4.01'),
    // Quinhydrone: shares the two figures 699.76 mV and −0.74 mV/°C with the core; the pH term goes by kT/e.
    eh: (t) => 699.76 - 0.74 * (t - 25) - Math.LN10 * thermalMv(t) * bufferPh('4.01', t),
    poise: 1,
  },
  'nitrate 10': salt('nitrate', 10 / 62.004),
  'nitrate 100': salt('nitrate', 100 / 62.004),
  'potassium 20': salt('chloride', 20 / 39.098),
  'potassium 200': salt('chloride', 200 / 39.098),
  'chloride 46': salt('chloride', 1.36),
  'chloride 319': salt('chloride', 10),
  'nitrate 5 as N': salt('nitrate', 5 / NITROGEN),
  'chlorine-free': conducting((t) => freshUs(300, t)),
  // Sulfite takes all of it; the others are kept full by a stream of bubbles, and by a wet sponge.
  'zero oxygen': { ...conducting((t) => freshUs(20_000, t)), oxygen: 0 },
  'air-saturated water': conducting((t) => freshUs(300, t)),
  'water-saturated air': conducting(pureUs),
};

/** Liquids that no cup is needed for. */
export const AROUND: Readonly<Record<string, Liquid>> = {
  rinse: { ...PLAIN, us: (t) => pureUs(t) + 0.8 },
  tap: { ...PLAIN, ph: () => 7.7, buffering: 0.02, us: (t) => freshUs(480, t), chlorine: 0.1 },
  storage: { ...PLAIN, ph: () => 5.5, us: (t) => kclUs(280_000, t), ions: { ...NO_IONS, potassium: 3000 } },
};

/** Parts of liquids, shares adding up to 1. */
export type Mixture = readonly { readonly liquid: Liquid; readonly share: number }[];

export const all = (liquid: Liquid): Mixture => [{ liquid, share: 1 }];

/** Two mixtures stirred together: `share` of the second. */
export function stirred(into: Mixture, from: Mixture, share: number): Mixture {
  const s = Math.min(1, Math.max(0, share));
  if (s === 0) return into;
  const parts = new Map<Liquid, number>();
  for (const p of into) parts.set(p.liquid, (parts.get(p.liquid) ?? 0) + p.share * (1 - s));
  for (const p of from) parts.set(p.liquid, (parts.get(p.liquid) ?? 0) + p.share * s);
  // What is left of the cup before the one before last cannot be seen.
  const kept = [...parts].filter(([, part]) => part > 1e-7);
  const whole = kept.reduce((sum, [, part]) => sum + part, 0);
  return kept.map(([liquid, part]) => ({ liquid, share: part / whole }));
}

const weighted = (mix: Mixture, value: (l: Liquid) => number, weight: (l: Liquid) => number) => {
  const total = mix.reduce((s, p) => s + p.share * weight(p.liquid), 0);
  return mix.reduce((s, p) => s + p.share * weight(p.liquid) * value(p.liquid), 0) / total;
};

/** pH of a mixture: the liquid with more buffer capacity pulls harder. Common practice, no source: no chemistry is solved here. */
export const phOf = (mix: Mixture, t: number) =>
  weighted(
    mix,
    (l) => l.ph(t),
    (l) => l.buffering,
  );
export const ehOf = (mix: Mixture, t: number) =>
  weighted(
    mix,
    (l) => l.eh(t),
    (l) => l.poise,
  );
const even = () => 1;
export const usOf = (mix: Mixture, t: number) => weighted(mix, (l) => l.us(t), even);
export const poiseOf = (mix: Mixture) => weighted(mix, (l) => l.poise, even);
export const chlorineOf = (mix: Mixture) => weighted(mix, (l) => l.chlorine, even);
export const oxygenOf = (mix: Mixture) => weighted(mix, (l) => l.oxygen, even);
export const standardOf = (mix: Mixture) => weighted(mix, (l) => Number(l.standard), even);
export const ionOf = (mix: Mixture, ion: IonName) => weighted(mix, (l) => l.ions[ion], even);

/** Mean activity coefficient of a 1:1 salt over the root of its molarity: KCl, 25 °C (Robinson and Stokes, from memory). */
const GAMMA: readonly (readonly [number, number])[] = [
  [0, 1],
  [Math.sqrt(0.001), 0.965],
  [Math.sqrt(0.01), 0.902],
  [Math.sqrt(0.1), 0.77],
  [1, 0.604],
  [Math.sqrt(3), 0.569],
];

/** @param molar ionic strength, mol/L; the core goes by Davies, here a measured table is read off */
export function gamma(molar: number): number {
  const x = Math.min(Math.sqrt(Math.max(0, molar)), GAMMA.at(-1)![0]);
  const i = Math.max(
    1,
    GAMMA.findIndex(([at]) => at >= x),
  );
  const [x0, y0] = GAMMA[i - 1]!;
  const [x1, y1] = GAMMA[i]!;
  const f = (x - x0) / (x1 - x0);
  return Math.exp(Math.log(y0) * (1 - f) + Math.log(y1) * f);
}

/** Activity of an ion in a mixture, mmol/L. All ions here have one charge: half their sum is the ionic strength. */
export function activityOf(mix: Mixture, ion: IonName): number {
  const { nitrate, potassium, chloride } = {
    nitrate: ionOf(mix, 'nitrate'),
    potassium: ionOf(mix, 'potassium'),
    chloride: ionOf(mix, 'chloride'),
  };
  const strength = Math.max(potassium, nitrate + chloride) / 1000;
  return { nitrate, potassium, chloride }[ion] * gamma(strength);
}

import { figure } from './figure.ts';
import { convertTo, kindOf, spellings, UNITS, unitsOf, type Kind, type Quantity, type Unit } from './units.ts';

export type ReadQuantity =
  | ({ readonly ok: true; /** the unit was typed, not assumed */ readonly unitTyped: boolean } & Quantity)
  | {
      readonly ok: false;
      readonly reason: 'empty' | 'no-figure' | 'ambiguous' | 'unknown-unit' | 'other-kind';
      /** what was typed, why it cannot be taken, and what can */
      readonly message: string;
    };

const squeezed = (text: string) => text.replace(/[\s_]/g, '').replace(/μ/g, 'µ').replace(/Ω/g, 'Ω').replace(/×/g, 'x');

/** Every spelling, exactly as printed; and without case, where no two units would then be one. */
const EXACT = new Map<string, Unit>();
const CASELESS = new Map<string, Unit | null>();
for (const unit of UNITS) {
  for (const word of [unit, ...spellings(unit)]) {
    const key = squeezed(word);
    EXACT.set(key, unit);
    const low = key.toLowerCase();
    const known = CASELESS.get(low);
    CASELESS.set(low, known === undefined || known === unit ? unit : null);
  }
}

/** Words that name several scales: the scale must be said. */
const SCALELESS: Readonly<Record<string, string>> = {
  ppm: 'ppm is three scales of EC, and also mg/L: write ppm×500, ppm×640, ppm×700, or mg/L.',
  tds: 'TDS is shown on three scales: write ppm×500, ppm×640 or ppm×700.',
  sg: 'Specific gravity is a ratio at two temperatures: write SG 25/25 or SG 20/20.',
  '°': 'Degrees of what: write °C or °F.',
  deg: 'Degrees of what: write °C or °F.',
};

/**
 * The unit that a word means.
 *
 * @returns the unit, or null when no unit is written so
 * @example unitNamed('us/cm') // 'µS/cm'
 * @example unitNamed('f') // '°F'
 */
export function unitNamed(word: string): Unit | null {
  const key = squeezed(word);
  const exact = EXACT.get(key);
  if (exact) return exact;
  const unit = CASELESS.get(key.toLowerCase()) ?? null;
  // A small m is milli, and no mega and no molar that lost its shift key: 5 mΩ is no megohm.
  const spelled = unit ? [unit, ...spellings(unit)].map(squeezed) : [];
  const lostNothing = (s: string) => [...s].every((letter, i) => letter !== 'M' || key[i] === 'M');
  return spelled.some((s) => s.toLowerCase() === key.toLowerCase() && lostNothing(s)) ? unit : null;
}

/**
 * Reads what a person typed: "81.3 F", "1.41 mS/cm", "−8,4 mV", "7.02".
 *
 * A figure without a unit takes the assumed one. A comma followed by exactly three digits is refused, because 1,413 is
 * 1.413 to one reader and 1413 to another.
 *
 * @param kinds what may be typed here; none = anything
 * @param assumed unit of a bare figure; null = a unit must be typed
 * @example readQuantity('81.3 F', ['temperature'], '°C') // { value: 81.3 }
 * @example readQuantity('1330 ppm', ['conductivity'], 'mS/cm').reason // 'unknown-unit'
 */
export function readQuantity(text: string, kinds: readonly Kind[], assumed: Unit | null): ReadQuantity {
  const typed = text.trim();
  const no = (reason: Extract<ReadQuantity, { ok: false }>['reason'], message: string): ReadQuantity => ({
    ok: false,
    reason,
    message,
  });
  if (!typed) return no('empty', 'Nothing typed yet.');
  // A gravity is written with its scale in front, as "SG 25/25 1.0264", or behind.
  const match = /^([-+\u2212]?(?:\d[\d.,]*|[.,]\d+)(?:e[-+]?\d+)?)\s*(.*)$/iu.exec(typed);
  if (!match) return no('no-figure', `“${typed}” has no figure in front. Type it like ${example(kinds, assumed)}.`);
  const [, digits, word] = match as unknown as [string, string, string];
  if (/^[-+\u2212]?[1-9]\d{0,2},\d{3}$/.test(digits)) {
    const point = digits.replace(',', '.');
    return no('ambiguous', `${digits} can be read as ${point} or as ${digits.replace(',', '')}. Write one of these.`);
  }
  const value = figure(digits);
  if (value === null) return no('no-figure', `“${digits}” is not a figure. Type it like ${example(kinds, assumed)}.`);
  if (!word) {
    if (assumed) return { ok: true, value, unit: assumed, unitTyped: false };
    return no('unknown-unit', `${digits} of what: type the unit behind it, like ${example(kinds, assumed)}.`);
  }
  return withUnit(value, word, kinds, assumed, no);
}

function withUnit(
  value: number,
  word: string,
  kinds: readonly Kind[],
  assumed: Unit | null,
  no: (reason: 'unknown-unit' | 'other-kind', message: string) => ReadQuantity,
): ReadQuantity {
  const accepted = kinds.flatMap((k) => unitsOf(k));
  const unit = meant(word, kinds);
  if (unit === null) {
    const scaleless = SCALELESS[squeezed(word).toLowerCase()];
    if (scaleless) return no('unknown-unit', scaleless);
    const list = accepted.length ? ` This takes ${accepted.join(', ')}.` : '';
    return no('unknown-unit', `“${word}” is no unit known here.${list}`);
  }
  if (kinds.length && !kinds.includes(kindOf(unit))) {
    return no('other-kind', `${unit} is a ${kindOf(unit)}; this takes ${accepted.join(', ')}.`);
  }
  // Stored units must stay finite too: 1e308 MΩ is a slip.
  const base = convertTo(value, unit, unitsOf(kindOf(unit))[0]!);
  if (base === null || !Number.isFinite(base)) return no('unknown-unit', `${value} ${unit} is beyond any sensor.`);
  return { ok: true, value, unit, unitTyped: unit !== assumed || word !== '' };
}

/** "S" is a salinity in a salinity field, "mg/L" is the field's own mg/L where it takes only one of them. */
function meant(word: string, kinds: readonly Kind[]): Unit | null {
  const unit = unitNamed(word);
  if (unit !== null && (!kinds.length || kinds.includes(kindOf(unit)))) return unit;
  const key = squeezed(word).toLowerCase();
  const own = kinds
    .flatMap((k) => unitsOf(k))
    .find((u) => [u, ...spellings(u)].some((s) => squeezed(s).toLowerCase() === key));
  return own ?? unit;
}

function example(kinds: readonly Kind[], assumed: Unit | null): string {
  const unit = assumed ?? kinds.flatMap((k) => unitsOf(k))[0];
  return unit ? `7.2 ${unit}` : '81.3 °F or 1.41 mS/cm';
}

import { Refusal } from '../quantities/refusal.ts';

/** Standard atomic weights, abridged: IUPAC 2021 (Prohaska et al., Pure Appl. Chem. 94 (2022) 573), from memory. */
const WEIGHTS: Readonly<Record<string, number>> = {
  H: 1.008,
  B: 10.81,
  C: 12.011,
  N: 14.007,
  O: 15.999,
  F: 18.998,
  Na: 22.99,
  Mg: 24.305,
  Al: 26.982,
  Si: 28.085,
  P: 30.974,
  S: 32.06,
  Cl: 35.45,
  K: 39.098,
  Ca: 40.078,
  Mn: 54.938,
  Fe: 55.845,
  Cu: 63.546,
  Zn: 65.38,
  Br: 79.904,
  Sr: 87.62,
  Ag: 107.87,
  I: 126.9,
  Ba: 137.33,
};

/**
 * Molar mass of a formula, with brackets and water of crystallisation: "KCl", "Ca(NO3)2·4H2O".
 *
 * @returns g/mol
 * @throws Refusal `formula-unreadable` with the place that cannot be read
 * @example molarMass('KCl') // 74.548
 * @example molarMass('Ca(NO3)2·4H2O') // 236.146
 */
export function molarMass(formula: string): number {
  const parts = formula.replace(/\s/g, '').split(/[·*.]/);
  if (!formula.trim() || formula.length > 60) throw unreadable(formula, formula);
  return parts.reduce((sum, part) => {
    const [, count, rest] = /^(\d{0,3})(.*)$/.exec(part)!;
    return sum + (count ? Number(count) : 1) * group(rest!, formula);
  }, 0);
}

function group(text: string, formula: string): number {
  const piece = /^(?:([A-Z][a-z]?)|\(([^()]+)\))(\d{0,3})/;
  let rest = text;
  let sum = 0;
  if (!rest) throw unreadable(formula, formula);
  while (rest) {
    const found = piece.exec(rest);
    if (!found) throw unreadable(formula, rest);
    const [whole, element, inner, count] = found;
    const weight = element === undefined ? group(inner!, formula) : WEIGHTS[element];
    if (weight === undefined) throw unreadable(formula, element!);
    const times = count ? Number(count) : 1;
    if (times === 0) throw unreadable(formula, rest);
    sum += times * weight;
    rest = rest.slice(whole.length);
  }
  return sum;
}

function unreadable(formula: string, at: string): Refusal {
  return new Refusal(
    'formula-unreadable',
    `“${formula}” cannot be read as a formula at “${at}”. Write it like KCl or Ca(NO3)2·4H2O.`,
    { formula, at },
  );
}

/** An ion that a sensor may see. */
export interface Ion {
  readonly id: string;
  /** as it is written: "Cl⁻" */
  readonly name: string;
  readonly word: string;
  readonly charge: number;
  /** g/mol */
  readonly molarMass: number;
  /** Kielland's size, Å: J. Am. Chem. Soc. 59 (1937) 1675, from memory */
  readonly sizeAngstrom: number;
}

const ion = (id: string, name: string, word: string, formula: string, charge: number, sizeAngstrom: number): Ion => ({
  id,
  name,
  word,
  charge,
  molarMass: molarMass(formula),
  sizeAngstrom,
});

/** The ions that the house can measure or count. */
export const IONS = [
  ion('chloride', 'Cl⁻', 'chloride', 'Cl', -1, 3),
  ion('nitrate', 'NO₃⁻', 'nitrate', 'NO3', -1, 3),
  ion('fluoride', 'F⁻', 'fluoride', 'F', -1, 3.5),
  ion('bromide', 'Br⁻', 'bromide', 'Br', -1, 3),
  ion('potassium', 'K⁺', 'potassium', 'K', 1, 3),
  ion('sodium', 'Na⁺', 'sodium', 'Na', 1, 4),
  ion('ammonium', 'NH₄⁺', 'ammonium', 'NH4', 1, 2.5),
  ion('calcium', 'Ca²⁺', 'calcium', 'Ca', 2, 6),
  ion('magnesium', 'Mg²⁺', 'magnesium', 'Mg', 2, 8),
  ion('sulfate', 'SO₄²⁻', 'sulfate', 'SO4', -2, 4),
] as const;

/**
 * An ion by its id.
 *
 * @throws Refusal `ion-unknown`
 * @example ionOf('calcium').charge // 2
 */
export function ionOf(id: string): Ion {
  const found = IONS.find((i) => i.id === id);
  if (found) return found;
  throw new Refusal('ion-unknown', `There is no ion “${id}” here. Pick one of ${IONS.map((i) => i.word).join(', ')}.`, {
    id,
  });
}

/** A salt that standards are made of: what it weighs, and what it falls into. */
export interface SaltOf {
  readonly id: string;
  readonly name: string;
  /** as weighed, water of crystallisation included */
  readonly formula: string;
  readonly ions: readonly { readonly ion: string; readonly count: number }[];
}

const salt = (id: string, name: string, formula: string, ...ions: [string, number][]): SaltOf => ({
  id,
  name,
  formula,
  ions: ions.map(([i, count]) => ({ ion: i, count })),
});

/** Strong electrolytes: all of the salt is ions. */
export const SALTS = [
  salt('KCl', 'potassium chloride', 'KCl', ['potassium', 1], ['chloride', 1]),
  salt('NaCl', 'sodium chloride', 'NaCl', ['sodium', 1], ['chloride', 1]),
  salt('NH4Cl', 'ammonium chloride', 'NH4Cl', ['ammonium', 1], ['chloride', 1]),
  salt('KNO3', 'potassium nitrate', 'KNO3', ['potassium', 1], ['nitrate', 1]),
  salt('NaNO3', 'sodium nitrate', 'NaNO3', ['sodium', 1], ['nitrate', 1]),
  salt('Ca(NO3)2·4H2O', 'calcium nitrate tetrahydrate', 'Ca(NO3)2·4H2O', ['calcium', 1], ['nitrate', 2]),
  salt('CaCl2', 'calcium chloride', 'CaCl2', ['calcium', 1], ['chloride', 2]),
  salt('CaCl2·2H2O', 'calcium chloride dihydrate', 'CaCl2·2H2O', ['calcium', 1], ['chloride', 2]),
  salt('MgCl2·6H2O', 'magnesium chloride hexahydrate', 'MgCl2·6H2O', ['magnesium', 1], ['chloride', 2]),
  salt('K2SO4', 'potassium sulfate', 'K2SO4', ['potassium', 2], ['sulfate', 1]),
  salt('NaF', 'sodium fluoride', 'NaF', ['sodium', 1], ['fluoride', 1]),
  salt('KBr', 'potassium bromide', 'KBr', ['potassium', 1], ['bromide', 1]),
] as const;

/**
 * A salt by its id.
 *
 * @throws Refusal `salt-unknown`
 * @example saltOf('KCl').ions // [{ count: 1 }]
 */
export function saltOf(id: string): SaltOf {
  const found = SALTS.find((s) => s.id === id);
  if (found) return found;
  throw new Refusal(
    'salt-unknown',
    `There is no salt “${id}” here. Pick one of ${SALTS.map((s) => s.id).join(', ')}.`,
    {
      id,
    },
  );
}

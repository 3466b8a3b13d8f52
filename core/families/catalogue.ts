import { AIR } from './conductivity/cell.ts';
import type { Settings } from '../sensor/family.ts';
import { BUFFERS } from '../solutions/buffers.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from '../solutions/conductivity-standards.ts';
import { ionStandard } from '../solutions/ion-standard.ts';
import { REDOX_STANDARDS } from '../solutions/redox-standards.ts';
import { ionOf } from '../solutions/salts.ts';
import type { Standard } from '../solutions/standard.ts';

/** The input of an instrument, shorted: it says what the instrument itself adds, and nothing of the sensor. */
export const ZERO_PLUG: Standard = {
  id: 'zero-plug',
  name: 'shorting plug',
  family: 'input',
  unit: 'mV',
  nominal: 0,
  nominalAtC: 25,
  table: [
    [-20, 0],
    [150, 0],
  ],
  uncertainty: 0,
  tableStep: 0,
  source: 'a shorted input has no potential',
};

const called = (standard: Standard, id: string, name: string): Standard => ({ ...standard, id, name });
const kcl = (id: string, name: string) =>
  called(
    CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!,
    id,
    name,
  );

const CELLS: readonly Standard[] = [
  AIR,
  called(conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' }), 'kcl-84', '84 µS/cm'),
  kcl('kcl-0.01', '1413 µS/cm'),
  kcl('kcl-0.02', '2765 µS/cm'),
  kcl('kcl-0.1', '12.88 mS/cm'),
  called(
    conductivityBottle({ label: 53_065, labelC: 25, salt: 'seawater', plusMinusPercent: 0.5 }),
    'seawater-35',
    'S 35',
  ),
  kcl('kcl-1', '111.8 mS/cm'),
];

const REDOX: readonly Standard[] = [
  called(REDOX_STANDARDS[0]!, 'ferrocyanide', 'redox 430'),
  called(REDOX_STANDARDS[1]!, 'quinhydrone-technical-4.01', 'redox pH 4'),
  called(REDOX_STANDARDS[2]!, 'quinhydrone-technical-7.00', 'redox pH 7'),
];

/** Ion standards as they are sold, by the mass of their ion in a litre; the value is its activity. */
const ion = (salt: string, of: string, id: string, name: string, molPerL: number) =>
  called(ionStandard({ salt, ion: of, molPerL }), id, name);
const molPerL = (of: string, mgPerL: number) => mgPerL / ionOf(of).molarMass / 1000;
const IONS: Readonly<Record<string, readonly Standard[]>> = {
  chloride: [
    ion('KCl', 'chloride', 'chloride-46', 'chloride 46', 0.00136),
    ion('KCl', 'chloride', 'chloride-319', 'chloride 319', 0.01),
  ],
  nitrate: [
    ion('KNO3', 'nitrate', 'nitrate-10', 'nitrate 10', molPerL('nitrate', 10)),
    ion('KNO3', 'nitrate', 'nitrate-100', 'nitrate 100', molPerL('nitrate', 100)),
  ],
  potassium: [
    ion('KCl', 'potassium', 'potassium-20', 'potassium 20', molPerL('potassium', 20)),
    ion('KCl', 'potassium', 'potassium-200', 'potassium 200', molPerL('potassium', 200)),
  ],
};

/** A bottle whose value does not move with temperature, in the unit that is printed on it. */
function still(family: string, id: string, name: string, unit: NonNullable<Standard['unit']>, value: number): Standard {
  return {
    id,
    name,
    family,
    unit,
    nominal: value,
    nominalAtC: 25,
    table: [
      [0, value],
      [60, value],
    ],
    // One percent at k = 1, as labels of such bottles state at the best. Common practice, no source.
    uncertainty: 0.01 * value,
    tableStep: 0,
    source: 'a concentration by mass; common practice, no source',
  };
}

const NITRATE: readonly Standard[] = [
  still('nitrate', 'nitrate-free', 'nitrate-free', 'mg/L NO3-N', 0),
  still('nitrate', 'nitrate-n-5', 'nitrate 5 as N', 'mg/L NO3-N', 5),
];
const CHLORINE: readonly Standard[] = [still('chlorine', 'chlorine-free', 'chlorine-free', 'mg/L', 0)];

/** Every standard that ships with Frustum, once. Names are short: they stand on cups and buttons. */
export const CATALOGUE: readonly Standard[] = [
  ...BUFFERS,
  ...CELLS,
  ZERO_PLUG,
  ...REDOX,
  ...Object.values(IONS).flat(),
  ...NITRATE,
  ...CHLORINE,
];

const PH_LIKE = ['ph', 'ph-shown', 'ph-counts'];
const CELL_FAMILIES = ['conductivity', 'salinity', 'resistivity'];

/**
 * Does a standard serve a sensor of this family? A team's own standard serves the family that it names.
 *
 * @param settings for ions: which one
 * @example serves('orp', {}, ZERO_PLUG) // 'true'
 * @example serves('resistivity', {}, CATALOGUE.find((s) => s.id === 'air')) // 'false'
 */
export function serves(family: string, settings: Settings, standard: Standard): boolean {
  if (PH_LIKE.includes(family)) return standard.family === 'ph';
  if (family === 'orp') return standard.family === 'orp' || standard.id === ZERO_PLUG.id;
  if (CELL_FAMILIES.includes(family))
    return standard.family === 'conductivity' && !(family === 'resistivity' && standard.nominal === 0);
  if (family === 'ion') {
    const named = IONS[String(settings['ion'] ?? 'chloride')] ?? [];
    return standard.family === 'ion' && named.some((s) => s.id === standard.id);
  }
  return standard.family === family;
}

const PH_SETS = [
  ['technical-7.00', 'technical-4.01'],
  ['technical-7.00', 'technical-10.01'],
  ['technical-7.00', 'technical-9.00'],
  ['technical-7.00', 'technical-10.01', 'technical-4.01'],
];
const SETS: Readonly<Record<string, readonly (readonly string[])[]>> = {
  ph: PH_SETS,
  'ph-shown': PH_SETS,
  'ph-counts': PH_SETS,
  orp: [['zero-plug', 'ferrocyanide'], ['ferrocyanide'], ['zero-plug', 'quinhydrone-technical-4.01']],
  conductivity: [
    ['air', 'kcl-0.01'],
    ['air', 'kcl-0.02'],
    ['kcl-0.01'],
    ['kcl-84', 'kcl-0.01'],
    ['kcl-0.01', 'kcl-0.1'],
  ],
  salinity: [['air', 'seawater-35'], ['seawater-35']],
  resistivity: [['kcl-84']],
  nitrate: [['nitrate-n-5'], ['nitrate-free', 'nitrate-n-5']],
  chlorine: [['chlorine-free']],
};

/**
 * Usual point sets of a family, first standard first; none where the value comes from a sample or a thermometer.
 *
 * @example usualSets('ion', { ion: 'chloride' })[0].join() // 'chloride-46,chloride-319'
 */
export function usualSets(family: string, settings: Settings = {}): readonly (readonly string[])[] {
  if (family !== 'ion') return SETS[family] ?? [];
  const [low, high] = IONS[String(settings['ion'] ?? 'chloride')] ?? [];
  if (!low || !high) return [];
  // The third and the fourth, high and low once more, stand near the temperature of the water.
  return [
    [low.id, high.id],
    [high.id, low.id],
    [low.id, high.id, high.id],
    [low.id, high.id, high.id, low.id],
  ];
}

import type { Poured, Settings } from '../../sensor/family.ts';
import { ionStandard } from '../../solutions/ion-standard.ts';
import { ionOf } from '../../solutions/salts.ts';
import { called, type Standard } from '../../solutions/standard.ts';
import { PAIR_LIMIT_C } from './over-temperature.ts';

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

/** Which ion a tip answers to. */
export const ionIn = (settings: Settings): string => String(settings['ion'] ?? 'chloride');

/** What tips stand in: low and high of their ion. */
export const IN_ION_STANDARDS: Poured = {
  all: Object.values(IONS).flat(),
  serves: ({ id, family }, settings) => family === 'ion' && (IONS[ionIn(settings)] ?? []).some((s) => s.id === id),
  sets: (settings) => {
    const [low, high] = IONS[ionIn(settings)] ?? [];
    if (!low || !high) return [];
    // The third and the fourth, high and low once more, stand near the temperature of the water.
    return [
      [low.id, high.id],
      [high.id, low.id],
      [low.id, high.id, high.id],
      [low.id, high.id, high.id, low.id],
    ];
  },
  usedBy: (settings) => `${ionIn(settings)} tips`,
  mixedUp: () => true,
  openedDays: 60,
  cupsOfOne: 2,
  pairC: PAIR_LIMIT_C,
  about: null,
};

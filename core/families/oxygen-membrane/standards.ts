import type { Poured } from '../../sensor/family.ts';
import type { Standard } from '../../solutions/standard.ts';

/** Where the equation of saturation holds, °C. */
const LOW_C = 0;
const HIGH_C = 40;

const full = (id: string, name: string, value: number, uncertainty: number, source: string): Standard => ({
  id,
  name,
  family: 'oxygen-membrane',
  unit: '% sat',
  nominal: value,
  nominalAtC: 25,
  table: [
    [LOW_C, value],
    [HIGH_C, value],
  ],
  uncertainty,
  tableStep: 0,
  source,
  remedy: 'Bring it into that range: what water holds is not known outside.',
});

/** Saturations by their nature; the ± of each is common practice without a source. */
const ZERO = full('zero-oxygen', 'zero oxygen', 0, 0.15, 'sulfite in excess takes all oxygen; common practice');
const WATER = full(
  'air-saturated-water',
  'air-saturated water',
  100,
  1,
  'water with air bubbled through it; common practice',
);
const AIR_MOIST: Standard = {
  ...full(
    'moist-air',
    'water-saturated air',
    100,
    0.5,
    'moist air over water, in equilibrium with it; common practice',
  ),
  inAir: true,
};

/** What is poured, or hung over water, for every sensor of dissolved oxygen. */
export const IN_OXYGEN: Poured = {
  all: [ZERO, AIR_MOIST, WATER],
  serves: (s) => ['oxygen-membrane', 'oxygen-optical'].includes(s.family),
  sets: () => [
    ['moist-air'],
    ['zero-oxygen', 'moist-air'],
    ['air-saturated-water'],
    ['zero-oxygen', 'air-saturated-water'],
  ],
  usedBy: () => 'sensors of dissolved oxygen',
  mixedUp: (s) => !s.inAir,
  // Sulfite that has stood open has met the air.
  openedDays: 7,
  cupsOfOne: 1,
  pairC: null,
  about: null,
};

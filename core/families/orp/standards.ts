import type { Poured } from '../../sensor/family.ts';
import { REDOX_STANDARDS } from '../../solutions/redox-standards.ts';
import { called, type Standard } from '../../solutions/standard.ts';
import { ZERO_PLUG } from '../../solutions/without-liquid.ts';

const REDOX: readonly Standard[] = [
  called(REDOX_STANDARDS[0]!, 'ferrocyanide', 'redox 430'),
  called(REDOX_STANDARDS[1]!, 'quinhydrone-technical-4.01', 'redox pH 4'),
  called(REDOX_STANDARDS[2]!, 'quinhydrone-technical-7.00', 'redox pH 7'),
];

/** What platinum stands in; and its input, shorted. */
export const IN_REDOX: Poured = {
  all: [ZERO_PLUG, ...REDOX],
  serves: ({ id, family }) => family === 'orp' || id === ZERO_PLUG.id,
  sets: () => [['zero-plug', 'ferrocyanide'], ['ferrocyanide'], ['zero-plug', 'quinhydrone-technical-4.01']],
  usedBy: () => 'sensors of ORP',
  mixedUp: () => true,
  openedDays: 30,
  cupsOfOne: 1,
  pairC: null,
  about: null,
};

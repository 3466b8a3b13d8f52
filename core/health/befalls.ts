import type { Befalls } from '../sensor/befalls.ts';
import { OF_ELECTRODES, SOUND_ELECTRODE } from './of-electrodes.ts';
import { OF_CELLS, OF_CHLORINE, OF_OPTICS, OF_THERMOMETERS, SOUND_OTHER } from './of-others.ts';

const CELLS = { sound: SOUND_OTHER, causes: OF_CELLS };
const OTHERS: Readonly<Record<string, Befalls>> = {
  conductivity: CELLS,
  resistivity: CELLS,
  salinity: CELLS,
  chlorine: { sound: SOUND_OTHER, causes: OF_CHLORINE },
  nitrate: { sound: SOUND_OTHER, causes: OF_OPTICS },
  temperature: { sound: SOUND_OTHER, causes: OF_THERMOMETERS },
};
const ELECTRODES = ['ph', 'orp', 'ion'];

/**
 * What may befall sensors of a family, and what a sound one shows.
 *
 * @returns null where nothing is written of it: channels that show pH themselves hide what their electrode does
 * @example befallsIn('conductivity')?.causes[0].id // 'cell-scaled'
 */
export function befallsIn(family: string): Befalls | null {
  if (!ELECTRODES.includes(family)) return OTHERS[family] ?? null;
  return { sound: SOUND_ELECTRODE, causes: OF_ELECTRODES.filter((c) => !c.families || c.families.includes(family)) };
}

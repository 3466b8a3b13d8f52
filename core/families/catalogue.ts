import type { Settings } from '../sensor/family.ts';
import type { Standard } from '../solutions/standard.ts';
import { FAMILIES, familyOf } from './registry.ts';

/** Every standard that ships with Frustum, once. Names are short: they stand on cups and buttons. */
export const CATALOGUE: readonly Standard[] = [...new Set(FAMILIES.flatMap((f) => f.standards.all))];

/**
 * Does a standard serve a sensor of this family? A team's own standard serves the family that it names.
 *
 * @param settings for ions: which one
 * @example serves('orp', {}, ZERO_PLUG) // 'true'
 * @example serves('resistivity', {}, CATALOGUE.find((s) => s.id === 'air')) // 'false'
 */
export const serves = (family: string, settings: Settings, standard: Standard): boolean =>
  familyOf(family).standards.serves(standard, settings);

/**
 * Usual point sets of a family, first standard first; none where the value comes from a sample or a thermometer.
 *
 * @example usualSets('ion', { ion: 'chloride' })[0].join() // 'chloride-46,chloride-319'
 */
export const usualSets = (family: string, settings: Settings = {}): readonly (readonly string[])[] =>
  familyOf(family).standards.sets(settings);

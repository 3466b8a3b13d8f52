import type { Fitted } from './fitted.ts';

type Loop = Fitted['loop'];
type InWater = Pick<Loop, 'id' | 'siteId' | 'place' | 'water' | 'family' | 'workingValue' | 'workingC'>;
type Placed = Pick<Loop, 'siteId' | 'referenceGroup' | 'body'>;

/** On one reference electrode: loops of one site that carry one name for it. */
export const shareReference = (a: Placed, b: Placed): boolean =>
  a.siteId === b.siteId && a.referenceGroup !== '' && a.referenceGroup === b.referenceGroup;

/**
 * What hangs together and is taken out together. Where nobody says otherwise, sensors on one reference sit on one body.
 *
 * @returns '' for a body of its own
 * @example bodyOf({ siteId: 's', referenceGroup: 'probe 7', body: '' }); // 'probe 7'
 */
export const bodyOf = ({ body, referenceGroup }: Placed): string => body || referenceGroup;

/** On one body, at one site. */
export const shareBody = (a: Placed, b: Placed): boolean =>
  a.siteId === b.siteId && bodyOf(a) !== '' && bodyOf(a) === bodyOf(b);

/**
 * What water a loop hangs in. Loops of one family at one place with the same working value and temperature are taken to hang in
 * the same water, unless somebody has given their water a name: then that name alone counts.
 *
 * @returns null when nobody has said where it is
 */
export function waterOf({ siteId, place, water, family, workingValue, workingC }: InWater): string | null {
  if (water !== '') return [siteId, 'named', water, family].join('\n');
  return place === '' ? null : [siteId, 'at', place, family, workingValue, workingC].join('\n');
}

/** Two loops in the same water. */
export const inSameWater = (a: InWater, b: InWater): boolean =>
  a.id !== b.id && waterOf(a) !== null && waterOf(a) === waterOf(b);

import { describe, expect, it } from 'vitest';
import type { Fitted } from './fitted.ts';
import { bodyOf, inSameWater, shareBody, shareReference } from './links.ts';

type Loop = Fitted['loop'];
const loop = (id: string, more: Partial<Loop> = {}) =>
  ({ id, siteId: 'house', family: 'ph', place: 'Plant room', workingValue: 7.2, workingC: 21, referenceGroup: '', body: '', water: '', ...more }) as Loop; // prettier-ignore

describe('loops in the same water', () => {
  const main = loop('a');
  it('are those of one site, place, family, value and temperature, unless somebody says otherwise', () => {
    expect(inSameWater(main, loop('b'))).toBe(true);
    expect(inSameWater(main, main)).toBe(false);
    for (const other of [
      { workingValue: 7.3 },
      { place: 'Hall' },
      { family: 'orp' },
      { siteId: 'elsewhere' as Loop['siteId'] },
      { workingC: 22 },
    ])
      // prettier-ignore
      expect(inSameWater(main, loop('b', other)), JSON.stringify(other)).toBe(false);
    // Nobody has said where these are.
    expect(inSameWater(loop('a', { place: '' }), loop('b', { place: '' }))).toBe(false);
  });

  it('a name for the water sets the link where places differ, and denies it where they are alike', () => {
    const named = { water: 'Reef', workingValue: 8 };
    expect(inSameWater(loop('a', { ...named, place: 'Sump' }), loop('b', { water: 'Reef' }))).toBe(true);
    expect(inSameWater(main, loop('b', { water: 'Its own' }))).toBe(false);
    expect(inSameWater(loop('a', named), loop('b', { ...named, family: 'orp' }))).toBe(false);
    expect(inSameWater(loop('a', named), loop('b', { ...named, siteId: 'elsewhere' }))).toBe(false);
  });
});

describe('loops on one reference and on one body', () => {
  const [ph, orp] = [loop('a', { referenceGroup: 'probe 7' }), loop('b', { referenceGroup: 'probe 7' })];
  it('carry one name for it at one site; a name at another site is another thing', () => {
    expect(shareReference(ph, orp)).toBe(true);
    expect(shareReference(ph, { ...orp, siteId: 'elsewhere' })).toBe(false);
    expect(shareReference(loop('a'), loop('b'))).toBe(false);
  });

  it('sit on one body where they share a reference, unless somebody says otherwise; others may sit on it, too', () => {
    expect(shareBody(ph, orp)).toBe(true);
    expect(bodyOf(ph)).toBe('probe 7');
    expect(shareBody(ph, { ...orp, body: 'apart' })).toBe(false);
    expect(shareBody(ph, loop('c', { body: 'probe 7' }))).toBe(true);
    expect(shareBody(loop('a'), loop('b'))).toBe(false);
    expect(shareBody(ph, { ...orp, siteId: 'elsewhere' })).toBe(false);
  });
});

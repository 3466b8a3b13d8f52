import { describe, expect, it } from 'vitest';
import { FAMILIES } from '../families/registry.ts';
import { CATALOGUE, usualSets } from '../families/catalogue.ts';
import { farFromWork, pointsTrouble, suggestedSet, type PouredFor } from './points.ts';

const standards = (...ids: string[]) => ids.map((id) => CATALOGUE.find((s) => s.id === id)!);
const loop = (family: string, more: Partial<PouredFor> = {}): PouredFor => ({
  family,
  workingValue: 7,
  workingC: 25,
  ...more,
});
const AMMONIUM = loop('ion', { settings: { ion: 'ammonium' } });

describe('standards that a run can be made of', () => {
  it('every usual set of every family is one', () => {
    let sets = 0;
    for (const { id } of FAMILIES)
      for (const set of usualSets(id)) {
        sets++;
        expect(pointsTrouble(loop(id), 'calibrate', standards(...set)), `${id}: ${set.join()}`).toBeNull();
      }
    expect(sets).toBeGreaterThan(15);
  });

  it.each([
    [
      'a cell’s standard and a redox one for glass',
      loop('ph'),
      ['technical-7.00', 'kcl-0.01'],
      /“1413 µS\/cm” is no standard for sensors of pH/,
    ],
    ['ferrocyanide for glass', loop('ph'), ['ferrocyanide'], /is no standard/],
    ['chloride for ammonium', AMMONIUM, ['chloride-46', 'chloride-319'], /no standard for ammonium tips/],
    ['the same cup twice', loop('ph'), ['technical-7.00', 'technical-7.00'], /“7.00” stands in the list twice/],
    [
      'one for a tip that needs two',
      loop('ion', { settings: { ion: 'chloride' } }),
      ['chloride-46'],
      /needs 2 standards to be calibrated, and one is chosen/,
    ],
    ['a plug alone', loop('orp'), ['zero-plug'], /Pick a standard/],
    [
      'more than a family takes',
      loop('conductivity'),
      ['air', 'kcl-84', 'kcl-0.01', 'kcl-0.1'],
      /4 standards are chosen; .* at most 3/,
    ],
  ])('%s: refused in words', (_, of, ids, words) => {
    expect(pointsTrouble(of, 'calibrate', standards(...ids))).toMatch(words);
  });

  it('one buffer holds the slope: an offset alone, or a look', () => {
    for (const kind of ['calibrate', 'verify', 'check-first'] as const)
      expect(pointsTrouble(loop('ph'), kind, standards('technical-7.00'))).toBeNull();
    expect(
      pointsTrouble(loop('ion', { settings: { ion: 'chloride' } }), 'verify', standards('chloride-46')),
    ).toBeNull();
  });
});

describe('standards about what a loop works at', () => {
  const ids = (workingValue: number, ...of: string[]) =>
    farFromWork(loop('ph', { workingValue }), standards(...of)).map((g) => g.id);
  it('a working value up to 0.3 pH outside them is none; further is a gate, and two that are near each other another', () => {
    // 10.01 at 25 °C, 4.005 and 7.00 as printed on the bottle.
    expect(ids(10.3, 'technical-7.00', 'technical-10.01')).toEqual([]);
    expect(ids(10.4, 'technical-7.00', 'technical-10.01')).toEqual(['working-outside']);
    expect(ids(8.1, 'technical-7.00', 'technical-4.01')).toEqual(['working-outside']);
    expect(ids(6.9, 'primary-phosphate', 'technical-7.00')).toEqual(['standards-near']);
    expect(ids(8.1, 'technical-7.00')).toEqual([]);
    expect(farFromWork(loop('conductivity', { workingValue: 60_000 }), standards('air', 'kcl-0.01'))).toEqual([]);
  });

  it.each([
    [8.1, 'technical-7.00,technical-10.01'],
    [5.8, 'technical-7.00,technical-4.01'],
    [13, 'technical-7.00,technical-4.01'],
  ])('pH %s: %s is suggested', (workingValue, set) => {
    expect(suggestedSet(loop('ph', { workingValue }), CATALOGUE).join()).toBe(set);
  });
});

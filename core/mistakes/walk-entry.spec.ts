import { describe, expect, it } from 'vitest';
import { seededChance } from '../statistics/chance.ts';
import { walkDoubt, type Display } from './walk-entry.ts';

const SEED = 20273;
const at = (family: string, value: number, sd: number): Display => ({
  family,
  settings: {},
  workingC: 24,
  usual: { value, sd },
});

describe('what is typed at a display of a walk', () => {
  it.each([
    ['ph', 8.1, 0.05, '81', 'pH', 'tenfold'],
    ['ph', 8.14, 0.05, '8.41', 'pH', 'digits'],
    ['conductivity', 1900, 60, '1330', 'µS/cm', 'other-unit'],
    ['conductivity', 1900, 60, '1.9', 'µS/cm', 'other-unit'],
    ['conductivity', 1900, 60, '1330', 'mS/cm', 'other-unit'],
    ['temperature', 25.5, 0.5, '77.9', '°C', 'other-unit'],
    ['temperature', 25.5, 0.5, '25.5', '°F', 'other-unit'],
    ['salinity', 34, 0.5, '1.0256', 'PSS-78', 'other-unit'],
    ['nitrate', 5, 0.5, '22', 'mg/L NO3-N', 'typed-scale'],
    ['oxygen-optical', 7.5, 0.3, '91', 'mg/L O2', 'other-unit'],
    ['orp', 320, 15, '800', 'mV', 'far-figure'],
  ])('%s, usually %s ±%s: %s %s is doubted as %s… %s', (family, value, sd, typed, unit, id) => {
    expect(walkDoubt(at(family, value, sd), typed, unit)?.id).toBe(id);
  });

  it('nothing is doubted where nothing is known, or where it is no figure', () => {
    expect(walkDoubt({ ...at('ph', 8, 1), usual: null }, '81', 'pH')).toBeNull();
    expect(walkDoubt(at('ph', 8, 0.1), 'eight', 'pH')).toBeNull();
  });

  it(`of 1000 usual figures fewer than one in a hundred is doubted; of 1000 lost commas nearly all are (seed ${SEED})`, () => {
    const chance = seededChance(SEED);
    const display = at('ph', 8.1, 0.06);
    let [usual, lost] = [0, 0];
    for (let i = 0; i < 1000; i++) {
      const typed = (8.1 + 0.06 * chance.normal()).toFixed(2);
      if (walkDoubt(display, typed, 'pH')) usual++;
      if (walkDoubt(display, typed.replace('.', ''), 'pH')) lost++;
    }
    expect(usual).toBeLessThan(10);
    expect(lost).toBeGreaterThan(990);
  });
});

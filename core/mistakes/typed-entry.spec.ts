import { describe, expect, it } from 'vitest';
import type { RunPlan } from '../calibration/events.ts';
import { CATALOGUE } from '../families/catalogue.ts';
import { familyOf } from '../families/registry.ts';
import { IDEAL_SENSOR } from '../sensor/coefficients.ts';
import { typedCapture, type TypedEntry } from './typed-entry.ts';

const standard = (id: string) => CATALOGUE.find((s) => s.id === id)!;

/** What is typed in the first cup of a run. */
function typed(family: string, id: string, entry: Partial<TypedEntry>, stands = false) {
  const plan = {
    family,
    settings: {},
    points: [{ standard: standard(id), lot: { id: '', label: '' } }],
    inForce: IDEAL_SENSOR,
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 6, sensitivity: 1, sensitivitySd: 0.03 },
    workingC: 25,
    workingValue: 6,
    tolerance: 0.1,
    limits: familyOf(family).limits,
  } as unknown as RunPlan;
  const usual = { reading: '', unit: 'mV', temperature: '25', degrees: '°C' } as const;
  const step = { purpose: 'as-found', pointIndex: 0 } as const;
  return typedCapture({ plan, adjusted: null }, step, standard(id), { ...usual, ...entry }, CATALOGUE, stands);
}

describe('a typed reading', () => {
  it('becomes a signal, by its unit and at its temperature', () => {
    // −k(T)·(pH − 7), k(25 °C) = 59.159 mV by CODATA: 4.01 is 176.9 mV.
    expect(typed('ph', 'technical-4.01', { reading: '4,01', unit: 'pH' })).toMatchObject({
      capture: { method: 'typed', signal: expect.closeTo(176.885, 2) as number, temperatureC: 25 },
    });
    expect(typed('ph', 'technical-4.01', { reading: ' 176.9 ', temperature: '77', degrees: '°F' })).toMatchObject({
      capture: { signal: 176.9, temperatureC: expect.closeTo(25, 9) as number },
    });
    // 1.413 mS/cm at 25 °C in a cell of 1/cm is a conductance of 1413 µS.
    expect(typed('conductivity', 'kcl-0.01', { reading: '1.413', unit: 'mS/cm' })).toMatchObject({
      capture: { signal: expect.closeTo(1413, 6) as number },
    });
  });

  it.each<[string, Partial<TypedEntry>, RegExp]>([
    ['no figure', { reading: 'seven' }, /^The reading “seven” is not a figure/],
    ['no temperature', { reading: '0', temperature: '' }, /^The temperature is missing. Type it like 24.5/],
    ['too hot a cup', { reading: '0', temperature: '300', degrees: '°F' }, /110/],
    [
      'a unit of another kind',
      { reading: '1413', unit: 'µS/cm' },
      /A reading in µS\/cm does not belong to this loop\. Pick pH or mV/,
    ],
    ['what no such sensor gives', { reading: '90000' }, /Check the figure and its unit/],
  ])('refuses %s in words and captures nothing', (_, entry, words) => {
    const made = typed('ph', 'technical-7.00', entry, true);
    expect('trouble' in made && made.trouble).toMatch(words);
  });

  it('that looks like a slip is doubted, and stands when somebody says so', () => {
    const lost = { reading: '701', unit: 'pH' };
    expect(typed('ph', 'technical-7.00', lost)).toMatchObject({ doubt: { id: 'tenfold' } });
    expect(typed('ph', 'technical-7.00', { reading: '7.01', unit: 'pH', temperature: '77' })).toHaveProperty('doubt');
    expect(typed('ph', 'technical-7.00', { reading: '7.3', unit: 'pH' }, true)).toHaveProperty('capture');
  });
});

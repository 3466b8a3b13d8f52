import { afterEach, describe, expect, it } from 'vitest';
import type { ReadingsView } from '@frustum/contract';
import { coneAsWritten, readingsAsWritten } from './as-written.ts';
import { degreesHere, inFamily, preferScales } from './in-family.ts';

const EC = {
  family: 'conductivity',
  workingValue: 1900,
  workingC: 22,
  tolerance: 60,
  shownAs: { scale: 'ppm×700', step: 10 },
};
const SALT = { family: 'salinity', workingValue: 34, workingC: 25, tolerance: 0.5, shownAs: { scale: '', step: null } };

describe('figures of a loop', () => {
  afterEach(() => preferScales({}));

  it('are printed as its instrument writes them, with its steps; widths and errors have digits of their own', () => {
    const of = inFamily(EC);
    expect([of.unit, of.value(1905), of.size(60), of.off(-12)]).toEqual(['ppm×700', '1330', '42', '−8']);
    expect(inFamily({ ...EC, shownAs: { scale: '', step: null } }).value(1905.4)).toBe('1905');
  });

  it('somebody may prefer another scale: all loops of that kind are in it, and no others', () => {
    preferScales({ conductivity: 'mS/cm', 'practical salinity': 'SG 25/25', temperature: '°F' });
    expect([inFamily(EC).unit, inFamily(EC).value(1905)]).toEqual(['mS/cm', '1.905']);
    expect(inFamily(SALT).value(34)).toMatch(/^1\.0256/);
    expect(inFamily({ ...EC, family: 'ph', workingValue: 8, tolerance: 0.1 }).unit).toBe('pH');
    expect(degreesHere()).toBe('°F');
    preferScales({ conductivity: 'furlong' });
    expect(inFamily(EC).unit).toBe('ppm×700');
    expect(degreesHere()).toBe('°C');
  });

  it('what is drawn is in that scale, too; what has no value there is left out', () => {
    const of = inFamily({ ...SALT, shownAs: { scale: 'SG 25/25', step: null } });
    const bucket = (mean: number) => ({ atMs: 0, mean, low: mean, high: mean, temperatureC: 25, onBench: false });
    const view: ReadingsView = { unit: 'PSS-78', widthMs: 1, fromMs: 0, toMs: 1, buckets: [bucket(35), bucket(55)] };
    const drawn = readingsAsWritten(view, of).buckets;
    expect(drawn.map((b) => b.mean)).toEqual([expect.closeTo(1.02637, 5)]);
    const cone = { segments: [{ fromMs: 0, toMs: 1, points: [[0, 0.5, 0.1, 0.2]] as [number, number, number, number][] }], marks: [] }; // prettier-ignore
    const [, mean, half] = coneAsWritten(cone, of).segments[0]!.points[0]!;
    // A unit of salinity is 0.00076 of gravity there.
    expect(mean / 0.5).toBeCloseTo(0.00076, 5);
    expect(half / 0.1).toBeCloseTo(0.00076, 5);
    expect(coneAsWritten(cone, inFamily(SALT))).toBe(cone);
  });
});

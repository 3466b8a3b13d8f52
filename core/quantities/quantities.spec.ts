import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal, requireFinite, requireWithin } from './refusal.ts';
import { celsius, fahrenheit, kelvin } from './temperature.ts';

describe('temperature', () => {
  it('26.1 °C is 78.98 °F, by F = 1.8 C + 32 (definition)', () => expect(fahrenheit(26.1)).toBeCloseTo(78.98, 9));

  it('there and back again (seed 5)', () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 200, noNaN: true }), (t) => {
        expect(celsius(fahrenheit(t))).toBeCloseTo(t, 9);
      }),
      { seed: 5 },
    );
  });

  it('nothing is colder than absolute zero', () => {
    expect(kelvin(-273.15)).toBe(0);
    expect(() => kelvin(-274)).toThrow(Refusal);
  });
});

describe('refusals', () => {
  it('say value, bound and remedy, and carry them as facts', () => {
    const refused = () => requireWithin(61, 0, 50, 'temperature', '°C', 'Cool the cup.');
    expect(refused).toThrow('temperature 61 °C is outside 0 to 50 °C. Cool the cup.');
    try {
      refused();
    } catch (error) {
      expect(error).toMatchObject({ code: 'out-of-range', facts: { value: 61, low: 0, high: 50 } });
    }
  });

  it.each([NaN, Infinity, -Infinity])('%s is stopped before it spreads', (value) => {
    expect(() => requireFinite(value, 'pH')).toThrow(/not a number/);
    expect(() => requireWithin(value, 0, 14, 'pH', '', '')).toThrow(/not a number/);
  });
});

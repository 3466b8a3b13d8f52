import { describe, expect, it } from 'vitest';
import type { Fitted } from './fitted.ts';
import { comesBefore } from './gates.ts';
import { conditionsOf, conditionWords, typedCondition } from './surrounded.ts';

const fitted = (name: string, family: string, more: Partial<Fitted['loop']> = {}): Fitted => ({
  timeZone: 'UTC',
  siteName: 'House',
  sensor: { id: name, name } as Fitted['sensor'],
  loop: { id: name, siteId: 'h', name, place: '', family, settings: {}, takes: {}, workingValue: 1, workingC: 22, tolerance: 0.1, intervalDays: 30, dueBy: 'calendar', controls: '', controlAction: '', referenceGroup: '', surroundings: [], limits: {}, ...more } as Fitted['loop'], // prettier-ignore
  channel: { id: name, resolution: 0.1, reads: { unit: 'nA', kind: 'wired', compensatedBy: '', outputs: [] } } as unknown as Fitted['channel'], // prettier-ignore
});
const ph = fitted('Pool pH', 'ph');
const chlorine = fitted('Pool chlorine', 'chlorine', { settings: { senses: 'acid' }, takes: { ph: 'Pool pH' } }); // prettier-ignore

describe('a condition of a run', () => {
  const of = (value: number) => conditionsOf(chlorine, [ph, chlorine], {}, () => ({ value }))[0]!;

  it('is what the other loop shows, as far as that can be one', () => {
    expect(conditionWords(of(7.31))).toBe('pH of the water 7.31 pH, shown by Pool pH');
    expect(of(-0.4)).toMatchObject({ value: 7, from: 'set-up' });
    expect(conditionWords(of(14.6))).toBe('pH of the water 7 pH, as set up: Pool pH gives none, it shows 14.6 pH, and 0 to 14 pH can be'); // prettier-ignore
    expect(conditionWords(of(NaN))).toMatch(/as set up/);
  });

  it('is as set up where no loop is named, or the one that was is gone', () => {
    const alone = { ...chlorine, loop: { ...chlorine.loop, takes: {} } };
    for (const [loop, all] of [[alone, [ph]], [chlorine, []]] as const) // prettier-ignore
      expect(conditionsOf(loop, all, {}, () => ({ value: 8 }))).toEqual([{ name: 'ph', value: 7, from: 'set-up', loopName: '', because: '' }]); // prettier-ignore
    expect(conditionsOf(ph, [chlorine], {}, () => ({ value: 8 }))).toEqual([]);
  });

  it.each([
    ['', null],
    ['99.1', 99.1],
    ['991 hPa', 99.1],
    ['743 mmHg', 99.058],
    ['29.26 inHg', 99.086],
  ])('pressure typed as “%s” is %s kPa', (text, value) => {
    const read = typedCondition(text, 'pressureKPa');
    if (value === null) expect(read).toBeNull();
    else expect(read).toBeCloseTo(value, 2);
  });

  it.each([
    ['1013', /pressure of the air 1013 kPa is .*112/i],
    ['high', /no figure in front/],
    ['25 °C', /is a temperature; this takes dbar, kPa, hPa/],
  ])('pressure typed as “%s” is refused with what can be', (text, words) => {
    expect(() => typedCondition(text, 'pressureKPa')).toThrow(words);
  });
});

describe('what comes before a loop', () => {
  it('is what shows its condition, and on one reference pH and ORP before ions, never the other way', () => {
    expect([comesBefore(ph.loop, chlorine), comesBefore(chlorine.loop, ph)]).toEqual([true, false]);
    const [glass, orp, ion] = (['ph', 'orp', 'ion'] as const).map((f) => fitted(f, f, { referenceGroup: 'multi' }));
    expect([comesBefore(glass!.loop, ion!), comesBefore(orp!.loop, ion!)]).toEqual([true, true]);
    expect([comesBefore(ion!.loop, glass!), comesBefore(glass!.loop, orp!), comesBefore(ion!.loop, ion!)]).toEqual([false, false, false]); // prettier-ignore
  });
});

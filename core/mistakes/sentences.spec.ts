import { describe, expect, it } from 'vitest';
import type { Odd } from '../calibration/odd.ts';
import { ODD_IDS } from '../calibration/odd.ts';
import { areFactsOf, oddRecord, oddWords } from './sentences.ts';

const level = { signal: 168.31, expected: -2.94, step: 0.59, unit: 'mV' };

/** The words of this part, where they are made: a reader hears a few of them here. */
describe('sentences about what is odd', () => {
  it.each<[Odd, RegExp, string]>([
    [
      { id: 'wrong-cup', facts: { ...level, other: '4.01', asked: '7.00', poles: true } },
      /This reads like 4\.01, not 7\.00\. It is heading for 168\.3 mV; this sensor gives −2\.9 there\. Plus and minus/,
      'It looked like 4.01 where 7.00 was asked for.',
    ],
    [
      { id: 'cap-on', facts: { ...level, asked: '4.01', last: '7.00' } },
      /It reads in 4\.01 what it read in 7\.00\..*cap.*other cup.*broken glass/,
      'It read in 4.01 what it read in 7.00.',
    ],
    [
      { id: 'cup-cold', facts: { asked: '7.00', cupC: 13.4, waterC: 22 } },
      /^The cup of 7\.00 has 13\.4 °C, the water 22\.0 °C: 8\.6 apart\./,
      'The cup of 7.00 has 13.4 °C, the water 22.0 °C: 8.6 apart.',
    ],
    [
      { id: 'inside-noise', facts: { error: -0.03, uncertainty: 0.02, unit: 'pH', decimals: 2 } },
      /The error of −0\.03 pH lies inside its own ±0\.04 \(k = 2\)\./,
      'Adjusted inside its own noise: −0.03 pH.',
    ],
  ])('%o', (odd, words, record) => {
    const { title, because } = oddWords(odd);
    expect(`${title} ${because}`).toMatch(words);
    expect(oddRecord(odd, true)).toBe(record);
  });

  it('facts of another code, half of them, or none are no facts', () => {
    expect(areFactsOf('wrong-cup', { ...level, other: '4.01', asked: '7.00', poles: false })).toBe(true);
    for (const id of ODD_IDS) if (id !== 'as-said') expect(areFactsOf(id, {}), id).toBe(false);
    expect([areFactsOf('wrong-cup', { other: '4.01' }), areFactsOf('toString', {}), areFactsOf(7, null)]).toEqual([false, false, false]); // prettier-ignore
  });
});

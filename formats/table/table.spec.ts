import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { encodeTable } from './table.ts';

describe('tables as CSV', () => {
  it('writes what RFC 4180 reads back, figures below zero as figures', () => {
    const text = encodeTable(
      ['when', 'off, pH', 'note'],
      [
        ['2026-11-25', -0.12, 'said "so"'],
        ['2026-11-26', null, 'a\nb'],
      ],
    );
    expect(text.startsWith('when,"off, pH",note\r\n2026-11-25,-0.12,"said ""so"""\r\n')).toBe(true);
    expect(Papa.parse(text.trimEnd()).data).toEqual([
      ['when', 'off, pH', 'note'],
      ['2026-11-25', '-0.12', 'said "so"'],
      ['2026-11-26', '', 'a\nb'],
    ]);
  });

  it.each(['=1+1', '+1', '-cmd', '@sum', '\tx'])('no formula leaves the house: %j', (text) =>
    expect(encodeTable(['name'], [[text]])).toContain(`'${text}`),
  );
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeBundle, encodeBundle } from './bundle/bundle.ts';
import { figure } from '@frustum/core';
import { decodeLotTable } from './lot-table/lot-table.ts';
import { decodeDoses, encodeDoses } from './doses/doses-csv.ts';
import { decodeTrace, MAX_ROWS } from './trace/trace-csv.ts';

const rows = (n: number, row: (i: number) => string) => Array.from({ length: n }, (_, i) => row(i)).join('\n');

describe('a recorded trace', () => {
  it.each([
    ['comma', rows(8, (i) => `${i},${-10.5 + i},24.5`)],
    ['semicolon and decimal comma', rows(8, (i) => `${i};${String(-10.5 + i).replace('.', ',')};24,5`)],
    ['tab, with heading', `t\tmV\tC\n${rows(8, (i) => `${i}\t${-10.5 + i}\t24.5`)}`],
    ['byte order mark and Windows lines', `\uFEFFtime;mV;temp\r\n${rows(8, (i) => `${i};${-10.5 + i};24.5\r`)}`],
    ['clock times', rows(8, (i) => `0:00:0${i},${-10.5 + i},24.5`)],
    ['ISO times', rows(8, (i) => `2026-11-23T09:00:0${i}Z,${-10.5 + i},24.5`)],
    ['another order of columns', `temp;time;mV\n${rows(8, (i) => `24.5;${i};${-10.5 + i}`)}`],
  ])('%s', (_, text) => {
    const result = decodeTrace(text);
    if (!result.ok) throw new Error(JSON.stringify(result.faults));
    expect(result.signal).toBe('mV');
    expect(result.samples.map((s) => s.t)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(result.samples[3]).toMatchObject({ signal: -7.5, temperatureC: 24.5 });
  });

  it('pH goes back to mV by what the channel believed', () => {
    const result = decodeTrace(`time;pH;°C\n${rows(8, (i) => `${i};6;25`)}`, { zero: -5, sensitivity: 0.9 });
    expect(result.ok && result.signal).toBe('pH');
    expect(result.ok && result.samples[0]!.signal).toBeCloseTo(-5 + 0.9 * 59.159, 2);
  });

  it.each([
    ['a word', `${rows(8, (i) => `${i},1,25`)}\n8,oops,25`, 9, 2],
    ['a missing temperature', `t,mV,C\n${rows(8, (i) => `${i},1,25`)}\n8,1`, 10, 3],
    ['time that goes back', `${rows(8, (i) => `${i},1,25`)}\n3,1,25`, 9, 1],
    ['Fahrenheit', `${rows(8, (i) => `${i},1,25`)}\n8,1,177`, 9, 3],
    ['a potential beyond any electrode', `t,mV,C\n${rows(8, (i) => `${i},1,25`)}\n8,9000,25`, 10, 2],
  ])('%s is named by line and column, and nothing is taken', (_, text, line, column) => {
    const result = decodeTrace(text);
    expect(result.ok).toBe(false);
    expect(!result.ok && result.faults[0]).toMatchObject({ line, column });
    expect('samples' in result).toBe(false);
  });

  it.each([
    ['nothing', ''],
    ['three rows', rows(3, (i) => `${i},1,25`)],
    ['too many rows', rows(MAX_ROWS + 1, (i) => `${i},1,25`)],
  ])('refuses %s with a sentence', (_, text) => {
    const result = decodeTrace(text);
    expect(!result.ok && result.faults[0]!.message).toMatch(/empty|needs at least 6|at most/);
  });

  it('never throws and never half-imports, whatever it is fed (seed 77)', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        const result = decodeTrace(text);
        if (result.ok)
          expect(result.samples.every((s) => [s.t, s.signal, s.temperatureC].every(Number.isFinite))).toBe(true);
        else expect(result.faults.length).toBeGreaterThan(0);
      }),
      { seed: 77, numRuns: 500 },
    );
  });

  it('reads figures as people type them', () => {
    expect(figure('7,02')).toBe(7.02);
    expect(figure('\u22128.4')).toBe(-8.4);
    expect(figure('7.0.2')).toBeNull();
    expect(figure('')).toBeNull();
    expect(figure('0x10')).toBeNull();
  });
});

describe('a lot’s own table, as it is typed', () => {
  it.each([
    ['20 7.02\n25 7.00'],
    ['25 °C 7,00\r\n20 °C 7,02\n'],
    ['20 = 7.02 pH\n\n25 = 7.00 pH'],
    ['20;7.02\n25;7.00'],
    ['20 °C: 7.02\n25 °C: 7.00'],
  ])('reads %j', (text) => {
    expect(decodeLotTable(text)).toEqual({
      ok: true,
      rows: [
        [20, 7.02],
        [25, 7],
      ],
    });
  });

  it.each([
    ['20 7.02\n25', /Line 2, “25”, is no temperature and value/],
    ['20 7.02\n25 seven', /Line 2/],
    ['20 7.02 8\n25 7', /Line 1/],
    ['20 7.02\n20 7.03', /Line 2: 20 °C stands there twice/],
    ['20 7.02', /1 rows; a table needs two/],
    ['', /0 rows/],
    [Array.from({ length: 80 }, (_, i) => `${i} 7`).join('\n'), /More than 60 rows/],
  ])('refuses %j by its line', (text, message) => {
    const read = decodeLotTable(text);
    expect(!read.ok && read.message).toMatch(message);
  });
});

describe('the open bundle', () => {
  it('refuses what it is not', () => {
    expect(() => decodeBundle('{}')).toThrow(/not a Frustum bundle/);
    expect(() => decodeBundle('{"format":"frustum-bundle","version":9}')).toThrow(
      /version 9; this Frustum reads version 2/,
    );
  });

  it('comes back as it went', () => {
    const bundle = {
      format: 'frustum-bundle',
      version: 2,
      site: { name: 'A', timeZone: 'UTC' },
      loops: [],
      lots: [],
      runs: [],
    } as const;
    expect(decodeBundle(encodeBundle(bundle))).toEqual(bundle);
  });
});

describe('a list of doses', () => {
  const units = ['mL', 'g'];
  it('comes in with columns in any order, semicolons and decimal commas', () => {
    const text =
      '\uFEFFamount;unit;time;what\r\n12,5;mL;2026-11-20T08:00:00Z;acid\r\n;;;\r\n3;g;2026-11-21 09:30Z;salt\r\n';
    expect(decodeDoses(text, units, 10)).toEqual({
      ok: true,
      doses: [
        { at: '2026-11-20T08:00:00.000Z', what: 'acid', amount: 12.5, unit: 'mL' },
        { at: '2026-11-21T09:30:00.000Z', what: 'salt', amount: 3, unit: 'g' },
      ],
    });
  });

  it.each([
    ['a missing column', 'time,what,unit\n', 1, 'no amount'],
    ['no dose', 'time,what,amount,unit\n', 1, 'no dose'],
    ['no time', 'time,what,amount,unit\nnoon,acid,3,mL', 2, '“noon” is no time'],
    ['nothing dosed', 'time,what,amount,unit\n2026-11-20T08:00,acid,0,mL', 2, 'no amount above 0'],
    ['another unit', 'time,what,amount,unit\n2026-11-20T08:00,acid,3,cup', 2, 'not one of mL, g'],
    ['no substance', 'time,what,amount,unit\n2026-11-20T08:00,,3,mL', 2, 'What was dosed'],
  ])('says where %s is, and takes nothing', (_, text, line, words) => {
    const result = decodeDoses(text, units, 10);
    expect(result.ok).toBe(false);
    const [fault] = result.ok ? [] : result.faults;
    expect(fault).toMatchObject({ line, message: expect.stringContaining(words) as string });
  });

  it('too many are refused, and what goes out comes in again', () => {
    const dose = { at: '2026-11-20T08:00:00.000Z', what: 'acid, 10 %', amount: 12.5, unit: 'mL' };
    const text = encodeDoses([dose, { ...dose, at: '2026-11-20T09:00:00.000Z' }]);
    expect(decodeDoses(text, units, 1)).toMatchObject({ ok: false });
    expect(decodeDoses(text, units, 2)).toMatchObject({ ok: true, doses: [dose, {}] });
  });
});

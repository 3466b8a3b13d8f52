import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  decodeInventory,
  INVENTORY_COLUMNS,
  inventoryCsv,
  inventoryJson,
  JSON_COLUMNS,
  LIST_COLUMNS,
} from './inventory.ts';

const SEED = 20_261_202;
const word = fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' }).map((s) => s.trim()).filter((s) => s !== '' && !s.startsWith("'")); // prettier-ignore
const row = fc
  .record({
    name: word,
    works: fc.double({ min: -1e6, max: 1e6, noNaN: true }),
    alpha: fc.integer(),
    lists: fc.array(fc.stringMatching(/^[a-z0-9.-]{1,8}$/), { maxLength: 3 }),
  }) // prettier-ignore
  .map(({ name, works, alpha, lists }) => ({
    ...(Object.fromEntries(INVENTORY_COLUMNS.map((c) => [c, ''])) as Record<
      (typeof INVENTORY_COLUMNS)[number],
      string
    >),
    loop: name,
    sensor: `=${name}`,
    'works at': String(works === 0 ? 0 : works),
    settings: JSON.stringify({ alpha, ion: name }),
    standards: lists.join(' '),
  }));

describe('an inventory', () => {
  it(`comes back as it was, as CSV and as JSON, whatever its names are (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 5 }), (rows) => {
        for (const text of [inventoryCsv(rows), inventoryJson(rows)]) {
          const read = decodeInventory(text, 10);
          expect(read.fault).toBeNull();
          expect(read.rows.map((r) => r.cells)).toEqual(rows);
        }
      }),
      { seed: SEED, numRuns: 200 },
    );
  });

  it('JSON has figures, lists and objects as such, and leaves out what is not said', () => {
    const [only] = fc.sample(row, { seed: SEED, numRuns: 1 });
    const json = JSON.parse(inventoryJson([{ ...only!, standards: 'a b', 'works at': '5.8' }])) as { rows: object[] };
    expect(json.rows[0]).toMatchObject({ 'works at': 5.8, standards: ['a', 'b'], settings: { ion: only!.loop } });
    expect(json.rows[0]).not.toHaveProperty('place');
    expect([...JSON_COLUMNS, ...LIST_COLUMNS].every((c) => INVENTORY_COLUMNS.includes(c))).toBe(true);
  });

  it.each([
    ['', 1, 'no row in the file'],
    ['loop,measures', 1, 'no row in the file'],
    ['loop,mesures\na,ph', 1, 'There is no column “mesures”. There are: site, time zone'],
    ['loop\na\nb\nc', 3, 'has 3 rows; at most 2 at once'],
    ['{"rows": 3}', 1, 'no list of rows'],
    ['[{"loop": }]', 1, 'This is no JSON'],
    ['[3]', 1, 'Row 1 is no object'],
    ['[{"loop": "a"}, {"lop": "b"}]', 2, 'no column “lop” (row 2)'],
  ])('%j is refused with the line and the way out', (text, line, words) => {
    const { rows, fault } = decodeInventory(text, 2);
    expect(rows).toEqual([]);
    expect(fault).toEqual({ line, message: expect.stringContaining(words) as string });
  });

  it('of a spreadsheet with semicolons has its cells, in any order, and says where each column is', () => {
    const { rows, columnOf } = decodeInventory('measures;loop;works at\nph;Tank 1;8,1\n;;\norp;Tank 2;320', 9);
    expect(rows.map((r) => [r.line, r.cells.loop, r.cells.measures, r.cells['works at'], r.cells.site])).toEqual([
      [2, 'Tank 1', 'ph', '8,1', ''],
      [4, 'Tank 2', 'orp', '320', ''],
    ]);
    expect([columnOf('works at'), columnOf('site')]).toEqual([3, 0]);
  });
});

import { describe, expect, it } from 'vitest';
import type { LoopRow } from '@frustum/contract';
import { linesOf, type Choice } from './choose.ts';

const NOW = 1e12;
const row = (loopName: string, more: Partial<LoopRow> = {}, chanceOutside: number | null = 0.01) =>
  ({
    loopName,
    loopId: loopName,
    siteName: 'House',
    place: 'Hall 1',
    family: 'ph',
    sensorName: `${loopName} probe`,
    serial: 'X-1',
    referenceGroup: '',
    margin: { state: 'inside', chanceOutside, error: 0, expanded: 0.1 },
    due: { atMs: NOW + 1, reason: '' },
    ...more,
  }) as unknown as LoopRow;

const rows = [
  row('Loop 10', { due: { atMs: NOW - 5, reason: '' }, place: 'Hall 2' }, 0.4),
  row('Loop 2', { referenceGroup: 'probe 7', family: 'orp' }, 0.02),
  row('Loop 1', { due: { atMs: null, reason: '' }, serial: 'TH-0412' }, null),
  row('Loop 3', { referenceGroup: 'probe 7', place: 'Hall 10' }),
];
const usual: Choice = { filter: 'all', find: '', sort: 'consequence', group: '' };
const said = (choice: Partial<Choice>) =>
  linesOf(rows, { ...usual, ...choice }, NOW).map((l) =>
    l.kind === 'loop' ? l.row.loopName : `# ${l.name} ${l.loops}/${l.hands}`,
  );

describe('what Margins shows', () => {
  it('keeps the order of consequence, sorts by due date, by chance with the unknown first, and by name as people count', () => {
    expect(said({})).toEqual(['Loop 10', 'Loop 2', 'Loop 1', 'Loop 3']);
    expect(said({ sort: 'due' })).toEqual(['Loop 10', 'Loop 1', 'Loop 2', 'Loop 3']);
    expect(said({ sort: 'outside' })).toEqual(['Loop 1', 'Loop 10', 'Loop 2', 'Loop 3']);
    expect(said({ sort: 'name' })).toEqual(['Loop 1', 'Loop 2', 'Loop 3', 'Loop 10']);
  });

  it('groups with a heading each; a reference of its own comes last', () => {
    expect(said({ group: 'place' })).toEqual([
      '# Hall 1 2/1',
      'Loop 2',
      'Loop 1',
      '# Hall 2 1/1',
      'Loop 10',
      '# Hall 10 1/0',
      'Loop 3',
    ]);
    expect(said({ group: 'reference' })[0]).toBe('# probe 7 2/0');
    expect(said({ group: 'family' }).filter((l) => l.startsWith('#'))).toEqual(['# ORP 1/0', '# pH 3/2']);
  });

  it('filters by hands, by place and by letters of a serial number', () => {
    expect(said({ filter: 'hands' })).toEqual(['Loop 10', 'Loop 1']);
    expect(said({ filter: 'Hall 10' })).toEqual(['Loop 3']);
    expect(said({ find: ' th-04' })).toEqual(['Loop 1']);
    expect(said({ find: 'nothing' })).toEqual([]);
  });
});

import { describe, expect, it } from 'vitest';
import { CATALOGUE, IDEAL_SENSOR, poursStandards } from '@frustum/core';
import { startRunSchema, type LoopRow, type LotRow, type ProcedureRow } from '@frustum/contract';
import { inLeastOrder } from '../many/many-start.tsx';
import {
  firstChoice,
  offersFor,
  openGates,
  orderOf,
  setsFor,
  standardsFor,
  stepWords,
  usualLot,
} from './start-choice.ts';

const NOW = Date.UTC(2026, 10, 25);
const TODAY = '2026-11-25';
const row = (family: string, more: Partial<LoopRow> = {}): LoopRow =>
  ({
    sensorId: '00000000-0000-4000-8000-000000000001',
    family,
    settings: {},
    workingValue: 5.8,
    workingC: 22,
    tolerance: 0.1,
    pointSet: ['technical-7.00', 'technical-4.01'],
    channel: { kind: 'hand' },
    inForce: IDEAL_SENSOR,
    ...more,
  }) as LoopRow;
const lot = (part: Partial<LotRow>): LotRow => ({
  lotId: '00000000-0000-4000-8000-00000000000a',
  standardId: 'technical-7.00',
  label: 'K-1',
  expiresOn: '2027-01-01',
  openedOn: '2026-11-01',
  usedUpOn: null,
  table: null,
  ...part,
});
const own: ProcedureRow = {
  procedureId: '00000000-0000-4000-8000-00000000000b',
  version: 2,
  family: 'ph',
  kind: 'calibrate',
  name: 'Our way',
  points: ['technical-4.01', 'technical-7.00'],
  school: 'fixed-time',
  seconds: 90,
  words: {},
  extra: [],
};

describe('what the start page proposes', () => {
  it('the usual procedure first, a team’s own after the built-in ones, none of another family', () => {
    const offers = offersFor('ph', [own, { ...own, family: 'orp', name: 'Not here' }]);
    expect(offers[0]!.kind).toBe('calibrate');
    expect(offers.at(-1)).toMatchObject({ name: 'Our way', text: 'Version 2, made here from “Calibrate”.' });
    expect(offers.some((o) => o.name === 'Not here')).toBe(false);
    expect(offersFor('chlorine', [])[0]!.kind).toBe('sample');
  });

  it('the loop’s own standards before the usual ones, each set once; a procedure’s before both', () => {
    const sets = setsFor(row('ph'), null, CATALOGUE);
    expect(sets[0]).toEqual(['technical-7.00', 'technical-4.01']);
    expect(new Set(sets.map((s) => s.join())).size).toBe(sets.length);
    expect(setsFor(row('ph'), own, CATALOGUE)[0]).toEqual(own.points);
    expect(standardsFor(row('orp'), CATALOGUE).map((s) => s.id)).toContain('zero-plug');
  });

  it('a loop whose own standards do not stand about its working value: others first, its own with a gate', () => {
    const reef = row('ph', { workingValue: 8.1, workingC: 25 });
    expect(setsFor(reef, null, CATALOGUE).slice(0, 2)).toEqual([
      ['technical-7.00', 'technical-10.01'],
      ['technical-7.00', 'technical-4.01'],
    ]);
    const shelf = { standards: CATALOGUE, lots: [] };
    const first = firstChoice(reef, offersFor('ph', [])[0]!, CATALOGUE);
    expect(openGates(reef, first, shelf, [], NOW)).toEqual([]);
    const acid = { ...first, points: reef.pointSet };
    expect(openGates(reef, acid, shelf, [], NOW).map((g) => g.id)).toEqual(['working-outside']);
  });

  it('a procedure brings its school and its dwell along', () => {
    const offer = offersFor('ph', [own]).at(-1)!;
    expect(firstChoice(row('ph'), offer, CATALOGUE)).toMatchObject({
      school: 'fixed-time',
      seconds: '90',
      points: own.points,
    });
  });

  it('the newest open bottle that is good and not used up', () => {
    const lots = [
      lot({ lotId: 'a', openedOn: '2026-10-01' }),
      lot({ lotId: 'b', openedOn: '2026-11-20' }),
      lot({ lotId: 'c', openedOn: '2026-11-24', expiresOn: '2026-11-24' }),
      lot({ lotId: 'd', openedOn: '2026-11-24', usedUpOn: '2026-11-24' }),
    ];
    expect(usualLot(lots, 'technical-7.00', TODAY)).toBe('b');
    expect(usualLot(lots, 'technical-4.01', TODAY)).toBe('');
  });

  it('says the step that counts in the loop’s own unit', () => {
    expect(['ph', 'conductivity', 'orp'].map((f) => stepWords(row(f)))).toEqual(['0.01 pH', '0.3 %', '0.5 mV']);
  });
});

describe('the order that starts a run', () => {
  const shelf = { standards: CATALOGUE, lots: [lot({ expiresOn: '2026-11-01' })] };

  it('carries the reasons of the gates that stand open, and is one that the server takes', async () => {
    const picked = {
      ...firstChoice(row('ph'), offersFor('ph', [])[0]!, CATALOGUE),
      lots: { 'technical-7.00': shelf.lots[0]!.lotId },
    };
    const gates = openGates(row('ph'), picked, shelf, [], NOW);
    expect(gates.map((g) => g.id)).toEqual(['lot-expired:7.00']);
    const order = orderOf(
      row('ph'),
      { ...picked, because: { 'lot-expired:7.00': ' tomorrow ' } },
      shelf.lots,
      gates,
      TODAY,
    );
    expect(order.overrides).toEqual([{ id: 'lot-expired:7.00', because: 'tomorrow' }]);
    expect(await startRunSchema.validate(order)).toMatchObject({ procedure: 'calibrate', fixedSeconds: 120 });
  });

  it('pours nothing for boxes, samples and thermometers, and asks no bottle’s gate', () => {
    for (const procedure of ['electrical', 'sample'] as const) {
      const choice = { ...firstChoice(row('ph'), offersFor('ph', [])[0]!, CATALOGUE), procedure };
      expect(poursStandards(procedure)).toBe(false);
      const order = orderOf(row('ph'), choice, shelf.lots, [], TODAY);
      expect(order.points).toEqual([]);
      expect(order.boxes.length > 0).toBe(procedure === 'electrical');
      expect(openGates(row('ph'), choice, shelf, [], NOW)).toEqual([]);
    }
  });

  it('of several the order of cups carries least over, and air stays first', () => {
    const cells = row('conductivity', { workingValue: 60, pointSet: [] });
    expect(inLeastOrder(cells, ['kcl-0.1', 'air', 'kcl-0.01'], { standards: CATALOGUE, lots: [] })).toEqual([
      'air',
      'kcl-0.01',
      'kcl-0.1',
    ]);
  });
});

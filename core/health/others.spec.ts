import { describe, expect, it } from 'vitest';
import type { ParametersAt } from '../drift/working.ts';
import type { PastRun } from '../drift/past.ts';
import { familyOf } from '../families/registry.ts';
import { diagnose } from './diagnose.ts';
import { healthFacts, type Checks } from './evidence.ts';
import { separatingTest } from './next-test.ts';

const at = (zero: number, sensitivity: number): ParametersAt => ({
  zero,
  zeroSd: 0.5,
  sensitivity,
  sensitivitySd: 0.004,
});
const past = (runs: readonly (readonly [zero: number, sensitivity: number])[], lastJumped = 0): PastRun[] =>
  runs.map(([zero, sensitivity], i) => {
    const known = at(zero, sensitivity);
    const jumped = i === runs.length - 1 ? lastJumped : 0;
    return { atMs: i * 3e9, found: known, known, standardised: [0, 0], jumped };
  });
const OTHERS = ['conductivity', 'resistivity', 'salinity', 'chlorine', 'nitrate', 'temperature'];
const said = (family: string, runs: PastRun[], checks: Checks = {}) =>
  diagnose(healthFacts(runs, [], { slopeKnown: false, zeroUnit: 1, ...checks }), familyOf(family).befalls!);

describe('sensors that are no electrodes', () => {
  it.each(OTHERS)('%s: one that stays as it is is called sound', (family) => {
    const made = said(family, past([[0.2, 1], [0, 0.998], [0.4, 0.999], [0.1, 0.997]])); // prettier-ignore
    expect(made.sound).toBeGreaterThan(0.7);
    expect(made.named).toBeNull();
    expect(made.sound + made.explanations.reduce((sum, e) => sum + e.chance, 0)).toBeCloseTo(1, 9);
  });

  it('a cell that loses its share: scale; taking it off tells it from worn plates', () => {
    const made = said('conductivity', past([[0, 1], [0, 0.97], [0.3, 0.94], [0, 0.915]])); // prettier-ignore
    expect(made.named?.id).toBe('cell-scaled');
    expect(made.named?.group).toBe('clean it');
    expect(made.test).toMatchObject({ service: 'cleaned', procedure: 'buffers' });
    const bottle = said('conductivity', past([[0, 1], [0, 1], [0.3, 0.998], [0, 0.94]], 0.97)); // prettier-ignore
    expect(bottle.named?.id).toBe('standard-wrong');
  });

  it('a cell whose air zero rises: its lead leaks; an optical sensor’s: its window is dirty', () => {
    const runs = past([[0, 1], [4, 1], [9, 0.999], [13, 0.998]]); // prettier-ignore
    expect(said('salinity', runs).named?.id).toBe('lead-leaks');
    expect(said('nitrate', runs).named?.id).toBe('window-dirty');
  });

  it('zeros are counted in steps that count, whatever the unit of the signal', () => {
    const small = past([[0, 1], [0.004, 1], [0.009, 0.999], [0.013, 0.998]].map(([z, s]) => [z!, s!])); // prettier-ignore
    const made = said('nitrate', small.map((p) => ({ ...p, known: { ...p.known, zeroSd: 0.0005 } })), { zeroUnit: 0.001 }); // prettier-ignore
    expect(made.named?.id).toBe('window-dirty');
  });

  it.each(OTHERS)('%s: every cause, alone and in every pair, has a test with outcomes', (family) => {
    const { causes } = familyOf(family).befalls!;
    for (const leader of causes)
      for (const second of [null, ...causes.filter((c) => c !== leader)]) {
        const { outcomes } = separatingTest(leader, second)!;
        expect(new Set(outcomes).size).toBeGreaterThanOrEqual(2);
        for (const outcome of outcomes) expect(outcome).toMatch(/: .+\.$/);
      }
    expect(causes.reduce((sum, c) => sum + c.prior, 0)).toBeLessThan(0.5);
  });

  it('nothing is said of a family of which nothing is written', () => expect(familyOf('ph-shown').befalls).toBeNull());
});

describe('a service as a test', () => {
  const after = (kind: 'cleaned' | 'refilled' | 'plug dried', zero: number, sensitivity: number) => ({
    after: { kinds: [kind], found: at(zero, sensitivity) },
  });
  const fallen = past([[0, 0.97], [-5, 0.969], [-11, 0.968], [-16, 0.968]]); // prettier-ignore
  const glass = (runs: PastRun[], checks: Checks = {}) =>
    diagnose(healthFacts(runs, [], checks), familyOf('ph').befalls!);
  const chance = (made: ReturnType<typeof diagnose>, id: string) => made.causes.find((c) => c.cause.id === id)!.chance;

  it('a refill that brings the zero back: the electrolyte; one that does not: the reference is contaminated', () => {
    const before = glass(fallen);
    const back = glass(fallen, after('refilled', -0.5, 0.968));
    const stayed = glass(fallen, after('refilled', -15, 0.968));
    expect(chance(back, 'electrolyte-diluted')).toBeGreaterThan(0.93);
    expect(chance(back, 'electrolyte-diluted')).toBeGreaterThan(chance(before, 'electrolyte-diluted'));
    expect(stayed.named?.id).toBe('reference-contaminated');
    expect(stayed.evidence.find((e) => e.piece === 'zeroAfter')!.push).toBeGreaterThan(1);
  });

  it('a plug that is dried: the slope comes back where it was moisture, and stays where the glass has aged', () => {
    const lost = past([[0, 0.97], [0, 0.94], [0, 0.91], [0, 0.88]]); // prettier-ignore
    expect(glass(lost, after('plug dried', 0, 0.968)).named?.id).toBe('connector-moist');
    expect(chance(glass(lost, after('plug dried', 0, 0.882)), 'connector-moist')).toBeLessThan(0.05);
  });

  it('scale comes off and worn plates stay', () => {
    const low = past([[0, 1], [0, 0.97], [0, 0.94], [0, 0.92]]); // prettier-ignore
    expect(chance(said('conductivity', low, after('cleaned', 0, 0.998)), 'cell-scaled')).toBeGreaterThan(0.95);
    expect(said('conductivity', low, after('cleaned', 0, 0.921)).named?.id).toBe('plates-worn');
  });

  it('where nothing had moved, a service tells nothing', () => {
    const calm = past([[0, 0.97], [0.2, 0.969], [0, 0.97], [0, 0.97]]); // prettier-ignore
    expect(glass(calm, after('refilled', 0.1, 0.97)).sound).toBeCloseTo(glass(calm).sound, 1);
  });
});

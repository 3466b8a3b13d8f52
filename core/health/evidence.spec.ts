import { describe, expect, it } from 'vitest';
import type { PastRun } from '../drift/past.ts';
import { familyOf } from '../families/registry.ts';
import { diagnose } from './diagnose.ts';
import { healthFacts } from './evidence.ts';

/** Figures of the evidence, each worked out by hand from runs that are written down here. */

const at = (zero: number, sensitivity: number, jumped = 0, zeroSd = 0.3, sensitivitySd = 0.004): PastRun => {
  const known = { zero, zeroSd, sensitivity, sensitivitySd };
  return { atMs: 0, found: known, known, standardised: [0, 0], jumped };
};

describe('what runs say', () => {
  const past = [at(2, 0.98), at(-1, 0.97), at(-4, 0.95)];

  it('moved zeros, in mV or in steps that count; lost slope in percent', () => {
    const facts = healthFacts(past);
    expect(facts.zeroMoved.value).toBeCloseTo(-6, 12);
    expect(facts.zeroMoved.sd).toBeCloseTo(Math.SQRT2 * 0.3, 12);
    expect(facts.sensitivityLost!.value).toBeCloseTo(3, 12);
    expect(facts.sensitivityLost!.sd).toBeCloseTo(100 * Math.SQRT2 * 0.004, 12);
    expect(facts.sensitivity).toEqual({ value: 95, sd: 0.4 });
    const inSteps = healthFacts(past, [], { zeroUnit: 3, slopeKnown: false });
    expect(inSteps.zeroMoved.value).toBeCloseTo(-2, 12);
    expect(inSteps.zeroMoved.sd).toBeCloseTo((Math.SQRT2 * 0.3) / 3, 12);
    expect(inSteps.sensitivity).toBeNull();
    // A sensor with an offset alone has no slope to lose.
    expect(healthFacts([at(0, 1, 0, 0.3, 0)]).sensitivityLost).toBeNull();
    expect([facts.runs, facts.refused, facts.treated, facts.siblings.others]).toEqual([3, false, null, []]);
  });

  it('one run alone has not jumped, whatever it says; the last of several has', () => {
    expect(healthFacts([at(0, 1, 0.7)]).lastJumped).toBe(0);
    expect(healthFacts([at(0, 1), at(9, 1, 0.7)]).lastJumped).toBe(0.7);
  });

  it('slower: the last third over the first, each brought to 25 °C by 3 % a degree', () => {
    const runs = [
      [10, 25],
      [12, 25],
      [20, 25],
      [20, 25],
      [30, 20],
      [30, 30],
    ].map(([t90, temperatureC]) => ({ t90: t90!, temperatureC: temperatureC! }));
    const { slower } = healthFacts(past, runs);
    const mean = (a: number, b: number) => (a + b) / 2;
    expect(slower!.value).toBeCloseTo(
      mean(Math.log(30) - 0.15, Math.log(30) + 0.15) - mean(Math.log(10), Math.log(12)),
      12,
    );
    // Two of each. As sure as three runs that it scatters by 0.15; four more say so by their second differences, whose variance is six times that of a run.
    const second = [12 ** 2 / (10 * 20), 20 ** 2 / (12 * 20)].map(Math.log).concat(Math.log(1.5) - 0.15, 0.3 - (Math.log(1.5) - 0.15)); // prettier-ignore
    const variance = (3 * 0.15 ** 2 + second.reduce((sum, d) => sum + d ** 2 / 6, 0)) / (3 + 4);
    expect(slower!.sd).toBeCloseTo(Math.sqrt(variance), 12);
    expect(healthFacts(past, runs.slice(0, 2)).slower).toBeNull();
  });

  it('impedances as logarithms; none, or one of nothing, says nothing', () => {
    const { membrane, reference } = healthFacts(past, [], { membraneMohm: 120, referenceKohm: 8 });
    expect(membrane!.value).toBeCloseTo(Math.log(120), 12);
    expect(reference!.value).toBeCloseTo(Math.log(8), 12);
    for (const ohms of [0, -1, null])
      expect(healthFacts(past, [], { membraneMohm: ohms, referenceKohm: ohms })).toMatchObject({
        membrane: null,
        reference: null,
      });
  });

  it('a run that undid what the one before had jumped by came back; one that went on, or stayed, did not', () => {
    const jumped = (zeros: readonly [number, number, number], slopes: readonly number[] = [1, 1, 1]) =>
      healthFacts(zeros.map((zero, i) => at(zero, slopes[i]!, i ? 1 : 0)));
    expect(jumped([0, 12, 0.2]).cameBack).toBeGreaterThan(0.85);
    expect(jumped([0, 12, 0.2]).lastJumped).toBeLessThan(0.15);
    expect(jumped([0, 12, 24]).cameBack).toBeLessThan(0.1);
    expect(jumped([0, 12, -12]).cameBack).toBeLessThan(0.1);
    // By the slope alone, where the zero has not moved.
    expect(jumped([0, 0.1, 0], [1, 0.9, 0.999]).cameBack).toBeGreaterThan(0.85);
    expect(jumped([0, 0.1, 0], [1, 0.9, 0.8]).cameBack).toBeLessThan(0.1);
    expect(healthFacts([at(0, 1), at(12, 1, 1)]).cameBack).toBe(0);
    expect(healthFacts([at(0, 1, 0, 0), at(12, 1, 1, 0), at(0, 1, 1, 0)].map((p) => ({ ...p, found: { ...p.found, sensitivitySd: 0 } }))).cameBack).toBe(0); // prettier-ignore
  });

  it('what a service brought back, in the unit of the zero and in percent', () => {
    const after = { kinds: ['refilled'] as const, found: at(-1, 0.97).known };
    const { treated } = healthFacts(past, [], { after, zeroUnit: 3 });
    expect(treated!.zero.value).toBeCloseTo(1, 12);
    expect(treated!.zero.sd).toBeCloseTo((Math.SQRT2 * 0.3) / 3, 12);
    expect(treated!.sensitivity.value).toBeCloseTo(2, 12);
    expect(treated!.sensitivity.sd).toBeCloseTo(100 * Math.SQRT2 * 0.004, 12);
  });
});

describe('what is said of it', () => {
  const { befalls } = familyOf('ph');
  const falling = (n: number, by: number) => Array.from({ length: n }, (_, i) => at(-by * i, 0.97));

  it('names nothing before three runs, and says how many there are', () => {
    const said = diagnose(healthFacts(falling(2, 25)), befalls!);
    expect(said.thin).toEqual({ code: 'few-runs', runs: 2, of: 3 });
    expect([said.named, said.test]).toEqual([null, null]);
    const three = diagnose(healthFacts(falling(3, 12.5)), befalls!);
    expect(three.thin).toBeNull();
    expect(three.named!.id).toBe('electrolyte-diluted');
    expect(three.sound + three.explanations.reduce((sum, e) => sum + e.chance, 0)).toBeCloseTo(1, 12);
  });

  it('the strongest evidence is said first, and none that hardly pushes', () => {
    const said = diagnose(healthFacts(falling(3, 12.5), [], { referenceKohm: 18 }), befalls!);
    const pushes = said.evidence.map((e) => Math.abs(e.push));
    expect(pushes).toEqual([...pushes].sort((a, b) => b - a));
    expect(pushes.every((p) => p > 0.1)).toBe(true);
    expect(said.evidence[0]!.piece).toBe('zeroMoved');
  });

  it('where nothing leads nothing is named, and that is said', () => {
    // 11.2 mV of fall: a dilution, a contamination and nothing at all are about as likely.
    const said = diagnose(healthFacts(falling(3, 5.6)), befalls!);
    expect([said.named, said.thin]).toEqual([null, { code: 'no-leader' }]);
    expect(said.test).not.toBeNull();
    // With little against it, it is sound, and nothing is asked for.
    const sound = diagnose(healthFacts(falling(3, 0.1)), befalls!);
    expect([sound.named, sound.thin, sound.test]).toEqual([null, null, null]);
    const sampled = diagnose(healthFacts(falling(3, 0.1), [], { sampleOff: { value: 0.5, sd: 1 } }), befalls!);
    expect([sampled.named, sampled.test]).toEqual([null, null]);
    expect(sampled.sound).toBeGreaterThan(0.9);
  });

  it('a second bottle that undid the first was the test', () => {
    const runs = [at(0, 1), at(12, 1, 1), at(0.1, 1, 1)];
    const said = diagnose(healthFacts(runs), befalls!);
    expect(said.causes[0]!.cause.id).toBe('standard-wrong');
    expect(said.test).toBeNull();
  });
});

import { describe, expect, it } from 'vitest';
import type { PastRun } from '../drift/past.ts';
import { diagnose } from './diagnose.ts';
import { healthFacts, type HealthFacts } from './evidence.ts';

const past = (zeros: readonly number[], slopes: readonly number[], jumped = 0): PastRun[] =>
  zeros.map((zero, i) => {
    const known = { zero, zeroSd: 0.6, sensitivity: slopes[i] ?? slopes.at(-1)!, sensitivitySd: 0.004 };
    return { atMs: i * 3e9, found: known, known, standardised: [0, 0], jumped: i === zeros.length - 1 ? jumped : 0 };
  });
const steady = [0.97, 0.969, 0.968, 0.968];
const timed = (seconds: readonly number[]) => seconds.map((t90) => ({ t90, temperatureC: 25 }));
const chanceOf = (facts: HealthFacts, id: string) => diagnose(facts).causes.find((c) => c.cause.id === id)!.chance;

describe('which half is failing', () => {
  it('a sound electrode is called sound, and no test is asked for', () => {
    const made = diagnose(healthFacts(past([-2, -2.5, -1.8, -2.2], steady), timed([40, 42, 41])));
    expect(made.named).toBeNull();
    expect(made.thin).toBeNull();
    expect(made.sound).toBeGreaterThan(0.8);
    expect(made.test).toBeNull();
    expect(made.sound + made.causes.reduce((sum, c) => sum + c.chance, 0)).toBeCloseTo(1, 9);
  });

  it('a zero that has fallen by 16 mV with its slope kept: the electrolyte; what would tell is a refill', () => {
    const made = diagnose(healthFacts(past([-1, -5, -11, -17], steady), timed([40, 42, 41])));
    expect(made.named?.id).toBe('electrolyte-diluted');
    expect(made.named?.group).toBe('service the reference');
    expect(made.evidence[0]!.piece).toBe('zeroMoved');
    expect(made.evidence[0]!.push).toBeGreaterThan(3);
    expect(made.test?.what).toContain('electrolyte');
  });

  it('a zero that has risen is no dilution', () => {
    const facts = healthFacts(past([-1, 5, 12, 18], steady), timed([40, 45, 50]));
    expect(chanceOf(facts, 'electrolyte-diluted')).toBeLessThan(0.01);
    expect(diagnose(facts).named?.id).toBe('reference-contaminated');
  });

  it('a slope that falls and a response that slows: the glass; a slope that falls alone: rather the connector', () => {
    const slow = healthFacts(past([0, 0, 1, 0], [0.97, 0.94, 0.9, 0.87]), timed([35, 60, 95]));
    expect(diagnose(slow).named?.id).toBe('glass-aged');
    const quick = healthFacts(past([0, 0, 1, 0], [0.97, 0.94, 0.9, 0.84]), timed([40, 41, 41]));
    expect(chanceOf(quick, 'connector-moist')).toBeGreaterThan(chanceOf(quick, 'glass-aged'));
    expect(diagnose(quick).test?.what).toContain('plug');
  });

  it('both standards alike: cracked or shorted', () => {
    const made = diagnose(healthFacts(past([0, 0, 0, -3], [0.97, 0.97, 0.97, 0.04])));
    expect(made.named?.id).toBe('glass-cracked');
  });

  it('a junction that buffers do not show is seen by samples alone', () => {
    const runs = past([-2, -2.5, -1.8, -2.2], steady);
    expect(chanceOf(healthFacts(runs, timed([40, 48, 55])), 'junction-blocked')).toBeLessThan(0.4);
    const made = diagnose(healthFacts(runs, timed([40, 48, 55]), { value: 18, sd: 4 }));
    expect(made.named?.id).toBe('junction-blocked');
    expect(made.test?.procedure).toBe('sample');
  });

  it('others on the same reference that moved with it speak for the reference, others that did not against it', () => {
    const runs = past([0, -2, -5, -8], steady);
    const alone = chanceOf(healthFacts(runs), 'electrolyte-diluted');
    const withThem = healthFacts(runs, [], null, [
      { value: -8.5, sd: 1 },
      { value: -7.6, sd: 1 },
    ]);
    const without = healthFacts(runs, [], null, [{ value: 0.4, sd: 1 }]);
    expect(chanceOf(withThem, 'electrolyte-diluted')).toBeGreaterThan(Math.max(alone, 0.8));
    expect(chanceOf(without, 'electrolyte-diluted')).toBeLessThan(alone);
  });

  it('one sudden run is rather the bottle, and a fresh one is asked for', () => {
    const made = diagnose(healthFacts(past([-1, -1.5, -1.2, 11], steady, 0.98)));
    expect(made.named?.id).toBe('standard-wrong');
    expect(made.test?.what).toContain('another bottle');
  });

  it('with two runs there is not enough to say, and it says what would be', () => {
    const made = diagnose(healthFacts(past([0, -18], steady)));
    expect(made.named).toBeNull();
    expect(made.thin).toBe('Not enough to say: 2 of 3 runs.');
    expect(made.test).toBeNull();
  });

  it('the response is compared at like temperature: slower in a colder cup is not slower', () => {
    const cold = [25, 25, 15].map((temperatureC, i) => ({ t90: i === 2 ? 54 : 40, temperatureC }));
    expect(healthFacts(past([0, 0, 0], steady), cold).slower!.value).toBeCloseTo(0, 1);
  });
});

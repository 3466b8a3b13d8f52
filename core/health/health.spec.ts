import { describe, expect, it } from 'vitest';
import type { PastRun } from '../drift/past.ts';
import { diagnose as diagnosed, type Diagnosis } from './diagnose.ts';
import { familyOf } from '../families/registry.ts';
import { healthFacts, type HealthFacts } from './evidence.ts';

const GLASS = familyOf('ph').befalls!;
const diagnose = (facts: HealthFacts, befalls = GLASS): Diagnosis => diagnosed(facts, befalls);

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
    expect(made.sound + made.explanations.reduce((sum, e) => sum + e.chance, 0)).toBeCloseTo(1, 9);
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
    expect(chanceOf(facts, 'electrolyte-diluted')).toBeLessThan(0.02);
    expect(diagnose(facts).named?.id).toBe('reference-contaminated');
  });

  it('a slope that falls and a response that slows: the glass; a slope that falls alone: rather the connector', () => {
    const slow = healthFacts(past([0, 0, 1, 0], [0.97, 0.94, 0.9, 0.87]), timed([35, 60, 95]));
    expect(diagnose(slow).named?.id).toBe('glass-aged');
    // Surely the glass: what would tell is about it, not about the next one on the list.
    const surely = diagnose(
      healthFacts(past([0, 0, 1, 0], [0.97, 0.94, 0.9, 0.85]), timed([35, 60, 110]), { membraneMohm: 500 }),
    );
    const rival = surely.explanations.find((e) => !e.causes.includes(surely.named!))!;
    expect(rival.chance).toBeLessThan(0.02);
    expect(rival.chance).toBeGreaterThan(surely.sound);
    expect(surely.test?.what).toContain('Clean it');
    const quick = healthFacts(past([0, 0, 1, 0], [0.97, 0.94, 0.9, 0.84]), timed([40, 41, 41]));
    expect(chanceOf(quick, 'connector-moist')).toBeGreaterThan(chanceOf(quick, 'glass-aged'));
    expect(diagnose(quick).test?.what).toContain('plug');
  });

  it('both standards alike: cracked or shorted', () => {
    const made = diagnose(healthFacts(past([0, 0, 0, -3], [0.97, 0.97, 0.97, 0.04])));
    expect(made.named?.id).toBe('glass-cracked');
  });

  it('there and back, run after run: a bottle was wrong, and the sensor is none the worse', () => {
    const course = (zeros: readonly number[], jumped: readonly number[]) =>
      past(zeros, steady).map((run, i) => ({ ...run, jumped: jumped[i]! }));
    const back = healthFacts(course([-2, -2.4, 9.5, -2.2], [0, 0, 0.95, 0.95]), timed([40, 42, 41]));
    expect(back.cameBack).toBeGreaterThan(0.7);
    expect(back.lastJumped).toBeLessThan(0.3);
    const made = diagnose(back);
    expect(made.named?.id).toBe('standard-wrong');
    expect(made.evidence.find((e) => e.piece === 'cameBack')!.push).toBeGreaterThan(3);
    // The other bottle was the test.
    expect(made.test).toBeNull();
    // A second jump that leads elsewhere is no way back, and neither is one jump alone.
    expect(healthFacts(course([-2, -2.4, 9.5, 20], [0, 0, 0.95, 0.95])).cameBack).toBeLessThan(0.1);
    expect(healthFacts(course([-2, -2.4, -2, -2.2], [0, 0, 0.02, 0.02])).cameBack).toBeLessThan(0.001);
  });

  it('an instrument that refused is a light word for trouble, and none for which: five times the odds, by Bayes', () => {
    const facts = (refused: boolean) => healthFacts(past([-1, -4, -8, -12], steady), timed([40, 42, 41]), { refused });
    const [without, withIt] = [diagnose(facts(false)), diagnose(facts(true))];
    const odds = ({ causes, sound }: Diagnosis, id: string) => causes.find((c) => c.cause.id === id)!.chance / sound;
    for (const { cause } of without.causes) {
      // What the water does is not in the instrument's cups.
      const times = cause.group === 'look at the process' ? 1 : 5;
      expect(odds(withIt, cause.id) / odds(without, cause.id), cause.id).toBeCloseTo(times, 9);
    }
    expect(without.evidence.some((e) => e.piece === 'refused')).toBe(false);
  });

  it('a junction that buffers do not show is seen by samples alone', () => {
    const runs = past([-2, -2.5, -1.8, -2.2], steady);
    expect(chanceOf(healthFacts(runs, timed([40, 48, 55])), 'junction-blocked')).toBeLessThan(0.4);
    const made = diagnose(healthFacts(runs, timed([40, 48, 55]), { sampleOff: { value: 18, sd: 4 } }));
    expect(made.named?.id).toBe('junction-blocked');
    // A second grab sample would say the same as the first.
    expect(made.test).toBeNull();
    expect(diagnose(healthFacts(runs, timed([40, 60, 80]))).test?.procedure).toBe('sample');
  });

  it('others on the same reference that moved with it speak for the reference, others that did not against it', () => {
    const runs = past([0, -2, -5, -8], steady);
    const alone = chanceOf(healthFacts(runs), 'electrolyte-diluted');
    const withThem = healthFacts(runs, [], {
      siblings: [
        { value: -8.5, sd: 1 },
        { value: -7.6, sd: 1 },
      ],
    });
    const without = healthFacts(runs, [], { siblings: [{ value: 0.4, sd: 1 }] });
    expect(chanceOf(withThem, 'electrolyte-diluted')).toBeGreaterThan(Math.max(2 * alone, 0.6));
    expect(chanceOf(without, 'electrolyte-diluted')).toBeLessThan(alone);
  });

  it('one sudden run is rather the bottle, and a fresh one is asked for', () => {
    // A bottle of 7.00 that had 6.80: zero and slope, by the two-point formula.
    const sudden = past([-1, -1.5, -1.2, 11], [0.97, 0.969, 0.968, 0.968 - 0.2 / 2.99], 0.98);
    const made = diagnose(healthFacts(sudden));
    expect(made.named?.id).toBe('standard-wrong');
    expect(made.test?.what).toContain('another bottle');
  });

  it('a bottle that moved others by as much is the bottle; where the others stayed it is not', () => {
    const runs = past([-1, -1.5, -1.2, 11], steady, 0.6);
    const mine = { value: 20, sd: 1.5 };
    const beside = (value: number) => healthFacts(runs, [], { fellows: { mine, others: [{ value, sd: 1.5 }] } });
    expect(chanceOf(beside(19), 'standard-wrong')).toBeGreaterThan(0.9);
    expect(chanceOf(beside(0), 'standard-wrong')).toBeLessThan(chanceOf(healthFacts(runs), 'standard-wrong'));
  });

  it('a reading that has moved is the water where a sample or a twin says so, and the junction where they do not', () => {
    const runs = past([-2, -2.5, -1.8, -2.2], steady);
    const readingMoved = { value: 40, sd: 3 };
    const agreed = diagnose(healthFacts(runs, [], { readingMoved, sampleOff: { value: 1, sd: 3 } }));
    expect(agreed.named?.id).toBe('process-moved');
    expect(agreed.named?.group).toBe('look at the process');
    const twin = healthFacts(runs, [], { readingMoved, twins: [{ value: 38, sd: 3 }] });
    expect(diagnose(twin).named?.id).toBe('process-moved');
    const not = healthFacts(runs, [], { readingMoved: { value: 20, sd: 3 }, sampleOff: { value: 22, sd: 3 } });
    expect(diagnose(not).named?.id).toBe('junction-blocked');
    const stayed = healthFacts(runs, [], { readingMoved: { value: 20, sd: 3 }, twins: [{ value: 0, sd: 3 }] });
    expect(chanceOf(stayed, 'process-moved')).toBeLessThan(0.3);
  });

  it('impedances tell a crack, a blocked junction and moisture apart', () => {
    const runs = past([0, 0, 1, 0], [0.97, 0.96, 0.93, 0.9]);
    const wet = healthFacts(runs, [], { membraneMohm: 35, referenceKohm: 6 });
    const old = healthFacts(runs, [], { membraneMohm: 420, referenceKohm: 6 });
    expect(diagnose(wet).named?.id).toBe('connector-moist');
    expect(diagnose(old).named?.id).toBe('glass-aged');
    const sound = past([-2, -2.5, -1.8, -2.2], steady);
    expect(diagnose(healthFacts(sound, [], { referenceKohm: 150 })).named?.id).toBe('junction-blocked');
    expect(diagnose(healthFacts(sound, [], { membraneMohm: 130, referenceKohm: 7 })).sound).toBeGreaterThan(0.85);
  });

  it('glass that answers late and keeps its slope is coated; cleaning that brings slope back says so, and age is what stays', () => {
    const slow = healthFacts(past([0, 0, 1, 0], [0.97, 0.96, 0.95, 0.94]), timed([35, 60, 100]));
    const made = diagnose(slow);
    expect(made.named?.id).toBe('glass-coated');
    expect(made.named?.group).toBe('clean it');
    const after = (sensitivity: number) => {
      const found = { zero: 0, zeroSd: 0.6, sensitivity, sensitivitySd: 0.004 };
      const runs = past([0, 0, 1, 0], [0.97, 0.95, 0.93, 0.91]);
      return diagnose(healthFacts(runs, timed([35, 60, 95]), { after: { kinds: ['cleaned'], found } }));
    };
    expect(after(0.968).named?.id).toBe('glass-coated');
    expect(after(0.91).named?.id).toBe('glass-aged');
    // What tells it from age is the cleaning.
    expect(diagnose(healthFacts(past([0, 0, 1, 0], [0.97, 0.95, 0.93, 0.91]), timed([35, 60, 95]))).test?.what).toContain('Clean it'); // prettier-ignore
  });

  it('a sample that is off, by a probe that is as quick as ever with a clear junction: a voltage in the water, with its caution', () => {
    const runs = past([-2, -2.5, -1.8, -2.2], steady);
    const off = healthFacts(runs, timed([40, 41, 42]), { sampleOff: { value: 55, sd: 4 }, referenceKohm: 7 });
    const made = diagnose(off);
    expect(made.named?.id).toBe('stray-voltage');
    expect(made.named!.test.what).toMatch(/can kill.*electrician/);
    const clogged = healthFacts(runs, timed([40, 60, 75]), { sampleOff: { value: 30, sd: 4 }, referenceKohm: 110 });
    expect(diagnose(clogged).named?.id).toBe('junction-blocked');
  });

  it('what fits none of them is something else, and never beside one of them', () => {
    const odd = healthFacts(past([0, 30, 62, 95], [0.97, 1.05, 1.15, 1.3]), timed([40, 41, 40]));
    const made = diagnose(odd);
    expect(made.named?.id).toBe('other');
    expect(made.explanations.every((e) => e.causes.length === 1 || e.causes.every((c) => c.id !== 'other'))).toBe(true);
    for (const family of [
      'ph',
      'orp',
      'ion',
      'conductivity',
      'chlorine',
      'nitrate',
      'oxygen-membrane',
      'oxygen-optical',
      'temperature',
    ])
      // prettier-ignore
      expect(familyOf(family).befalls!.causes.map((c) => c.id)).toContain('other');
  });

  it('an ion tip wears and platinum gets dirty; neither has glass that ages', () => {
    const worn = healthFacts(past([0, 1, 0, 1], [0.88, 0.84, 0.79, 0.73]), timed([60, 80, 110]), { slopeKnown: false });
    expect(diagnose(worn, familyOf('ion').befalls!).named?.id).toBe('tip-worn');
    const slow = healthFacts(past([0, 2, -3, 4], [1]), timed([30, 70, 130]), { slopeKnown: false });
    expect(diagnose(slow, familyOf('orp').befalls!).named?.id).toBe('platinum-dirty');
    for (const family of ['ion', 'orp'])
      expect(familyOf(family).befalls!.causes.map((c) => c.id)).not.toContain('glass-aged');
  });

  it('with two runs there is not enough to say, and it says what would be', () => {
    const made = diagnose(healthFacts(past([0, -18], steady)));
    expect(made.named).toBeNull();
    expect(made.thin).toEqual({ code: 'few-runs', runs: 2, of: 3 });
    expect(made.test).toBeNull();
  });

  it('the response is compared at like temperature: slower in a colder cup is not slower', () => {
    const cold = [25, 25, 15].map((temperatureC, i) => ({ t90: i === 2 ? 54 : 40, temperatureC }));
    expect(healthFacts(past([0, 0, 0], steady), cold).slower!.value).toBeCloseTo(0, 1);
  });
});

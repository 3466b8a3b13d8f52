import { describe, expect, it } from 'vitest';
import { responseIn } from '../calibration/plan.ts';
import { familyOf } from '../families/registry.ts';
import { expectedIn, modelOf, signalOf } from '../sensor/sensor.ts';
import { settleIn, STATISTICAL, type School } from '../settling/settle.ts';
import type { Sample } from '../settling/trace.ts';
import { buffer } from '../solutions/buffers.ts';
import { CATALOGUE } from '../families/catalogue.ts';
import type { Standard } from '../solutions/standard.ts';
import { weigh } from './engine.ts';
import type { Before, Cup } from './facts.ts';
import { chasesNoise } from './inside-noise.ts';
import type { OddFacts } from '../calibration/odd.ts';
import { IN_A_CUP } from './registry.ts';
import { swingOf } from './swing.ts';
import { slipIn, temperatureSlip, TYPED } from './typed.ts';
import { typedFacts } from './typed-facts.ts';
import { watched } from './watch.ts';

const PH = modelOf(familyOf('ph'), {});
const plan = {
  family: 'ph',
  settings: {},
  expected: { zero: -2, zeroSd: 2, sensitivity: 0.97, sensitivitySd: 0.008 },
  workingC: 22,
};
const [four, seven, ten] = ['technical-4.01', 'technical-7.00', 'technical-10.01'].map(buffer) as [
  Standard,
  Standard,
  Standard,
];

/** What this sensor gives in a standard at 22 °C, mV. */
const inCup = (standard: Standard, of: { zero: number; sensitivity: number } = plan.expected) =>
  signalOf(PH, expectedIn(PH, { standard, temperatureC: 22 }), { temperatureC: 22 }, of);

interface Course {
  readonly to: number;
  readonly from?: number;
  readonly noise?: number;
  readonly seconds?: number;
  readonly temperature?: (t: number) => number;
  readonly beat?: number;
  readonly slow?: number;
}

/** A trace at 2 Hz by a closed form, with seeded noise and a thermometer that follows. */
function trace({ to, from = to + 40, noise = 0.12, seconds = 180, temperature, beat = 0, slow = 4 }: Course): Sample[] {
  let state = 4711;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  return Array.from({ length: seconds * 2 }, (_, i) => {
    const t = i / 2;
    const swing = beat * Math.sin((2 * Math.PI * t) / 7);
    const signal = to + (from - to) * Math.exp(-t / slow) + swing + noise * normal();
    const temperatureC = temperature ? temperature(t) : 22 + 2 * Math.exp(-t / 20) + 0.01 * normal();
    return { t, signal, temperatureC };
  });
}

const cupOf = (asked: Standard, more: Partial<Cup> = {}): Cup => ({
  plan,
  asked,
  shelf: [four, seven, ten],
  before: [],
  fresh: true,
  ...more,
});

function look(cup: Cup, samples: Sample[], school: School = STATISTICAL, answered: readonly string[] = []) {
  const settling = settleIn(responseIn(cup.plan, cup.asked), samples, school, 0.1);
  return watched(cup, settling, samples, answered);
}

const inSeven: Before = { standard: seven, signal: inCup(seven), temperatureC: 22 };

describe('a watched cup', () => {
  it('says nothing in the right cup, for every probe that its history allows', () => {
    for (const zero of [-5, -2, 1])
      for (const standard of [four, seven, ten]) {
        const made = look(cupOf(standard), trace({ to: inCup(standard, { zero, sensitivity: 0.965 }) }));
        expect(made?.warning, `${standard.name} at ${zero} mV`).toBeNull();
        expect(made!.sound).toBeGreaterThan(0.5);
      }
  });

  it('names the bottle that it looks like, and the poles where they would read alike', () => {
    const wrong = look(cupOf(seven), trace({ to: inCup(four) }))!.warning!;
    expect(wrong.id).toBe('wrong-cup');
    expect(wrong.facts).toMatchObject({ other: '4.01', asked: '7.00', poles: false });
    expect(wrong.stops).toBe(true);
    const turned = look(cupOf(four), trace({ to: inCup(ten) }))!.warning!;
    expect(turned.facts).toMatchObject({ other: '10.01', poles: true });
  });

  it('exchanged poles turn the zero too: a probe with a zero of +35 mV reads −35 in 7.00, and it is the poles', () => {
    const far = { ...plan, expected: { ...plan.expected, zero: 35 } };
    for (const asked of [seven, four, ten]) {
      const signal = -inCup(asked, far.expected);
      const made = look(cupOf(asked, { plan: far }), trace({ to: signal }))!.warning!;
      expect([made.id, made.or?.id], `${asked.name}: ${signal.toFixed(1)} mV, ${made.id}`).toContain('polarity');
    }
  });

  it('is not asked twice: what was answered is ruled out, and with it what else judges the level', () => {
    const samples = trace({ to: inCup(four) });
    const { id } = look(cupOf(seven), samples)!.warning!;
    const again = look(cupOf(seven), samples, STATISTICAL, [id])!;
    expect(again.warning).toBeNull();
    expect(again.classes.map((c) => c.id)).not.toContain('which-cup');
  });

  it('the same reading in the next standard: cap, last cup or broken glass, all named', () => {
    const { warning } = look(cupOf(four, { before: [inSeven], fresh: false }), trace({ to: inCup(seven) + 0.4 }))!;
    expect(['cap-on', 'same-reading']).toContain(warning!.id);
    expect(warning!.facts).toMatchObject({ asked: '4.01', last: '7.00' });
  });

  it('a little of the last cup is carry-over, and toward the other side it is not', () => {
    const way = inCup(seven) - inCup(four);
    const cup = cupOf(four, { before: [inSeven], fresh: false });
    expect(look(cup, trace({ to: inCup(four) + 0.12 * way }))!.warning?.id).toBe('carry-over');
    expect(look(cup, trace({ to: inCup(four) - 0.12 * way }))!.warning?.id).toBe('unlike-itself');
  });

  it('restless and far: dry; restless and shifted: a bubble; a steady beat: hum', () => {
    expect(look(cupOf(four), trace({ to: inCup(four) - 60, noise: 5 }))!.warning?.id).toBe('dry-tip');
    expect(look(cupOf(seven), trace({ to: inCup(seven) + 9, noise: 0.75 }))!.warning?.id).toBe('bubble');
    const hum = look(cupOf(seven), trace({ to: inCup(seven), beat: 6, seconds: 120 }))!.warning!;
    expect(hum.id).toBe('hum');
    expect((hum.facts as OddFacts['hum']).seconds).toBeCloseTo(7, 0);
    expect(hum.stops).toBe(false);
    // A millivolt that goes to and fro is a beat as well.
    expect(look(cupOf(seven), trace({ to: inCup(seven), beat: 1, seconds: 120 }))!.warning?.id).toBe('hum');
  });

  it('a cup that is not as warm as the water, from about five degrees on', () => {
    const at = (celsius: number) =>
      look(cupOf(seven), trace({ to: inCup(seven), temperature: (t) => celsius + 3 * Math.exp(-t / 15) }));
    expect(at(19)?.warning).toBeNull();
    const cold = at(13)!.warning!;
    expect(cold.id).toBe('cup-cold');
    expect(cold.facts).toMatchObject({ asked: '7.00', cupC: expect.closeTo(13.4, 0) as number, waterC: 22 });
  });

  it('to the rinse and back, and once more: that happened, and is no beat', () => {
    // From 20 s on out of the cup for 10 s, and again 30 s later; the signal follows in 8 s each time.
    const target = (t: number) => ([20, 50].some((from) => t > from && t < from + 10) ? 60 : 0);
    let away = 0;
    const samples = trace({ to: inCup(seven), from: inCup(seven), seconds: 140 }).map((s) => {
      away += (target(s.t) - away) * (1 - Math.exp(-0.5 / 8));
      return { ...s, signal: s.signal + away };
    });
    for (let seconds = 60; seconds <= 140; seconds += 5)
      expect(look(cupOf(seven), samples.slice(0, 2 * seconds))?.warning?.id, `${seconds} s`).not.toBe('hum');
  });

  it('nobody is stopped by a probe that nobody knows: on a first run a worn one is only asked about', () => {
    const first = {
      ...plan,
      inForceKnown: false,
      expected: { zero: 0, zeroSd: 8, sensitivity: 0.97, sensitivitySd: 0.03 },
    };
    const worn = trace({ to: inCup(ten, { zero: 35, sensitivity: 0.85 }) });
    const shelf = [four, seven, buffer('technical-9.00'), ten];
    expect(look(cupOf(ten, { plan: first, shelf }), worn)!.warning).toMatchObject({ id: 'wrong-cup', stops: false });
    expect(look(cupOf(ten, { plan: { ...first, inForceKnown: true }, shelf }), worn)!.warning).toMatchObject({
      stops: true,
    });
    // No worn probe reads 4.01 in 7.00.
    expect(look(cupOf(seven, { plan: first }), trace({ to: inCup(four) }))!.warning).toMatchObject({
      id: 'wrong-cup',
      stops: true,
    });
  });

  it('a right figure that is typed on a first run is taken: nothing in air, and an ion’s own value', () => {
    const typed = (
      family: string,
      settings: object,
      expected: typeof plan.expected,
      id: string,
      text: string,
      unit: string,
    ) => {
      const asked = CATALOGUE.find((s) => s.id === id)!;
      const of = { family, settings: settings as Record<string, string>, expected };
      const reading = { text, value: Number(text), unit, temperatureC: 25 };
      return slipIn(typedFacts(of, { zero: 0, sensitivity: 1 }, asked, reading, CATALOGUE)!).warning;
    };
    const cell = { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd: 0.05 };
    for (const text of ['0', '0.1', '-0.2'])
      expect(typed('conductivity', {}, cell, 'air', text, 'µS/cm'), text).toBeNull();
    const tip = { zero: 0, zeroSd: 300, sensitivity: 1, sensitivitySd: 0.05 };
    for (const text of ['46.3', '43', '40'])
      expect(typed('ion', { ion: 'chloride' }, tip, 'chloride-46', text, 'mg/L activity'), text).toBeNull();
  });

  it('a thermometer that does not move at all hangs elsewhere; in the next cup of the same room it need not move', () => {
    const still = trace({ to: inCup(seven), temperature: (t) => 22 + 0.01 * Math.sin(t) });
    expect(look(cupOf(seven, { wayC: 0.03 }), still)!.warning?.id).toBe('thermometer-elsewhere');
    // Floated in the water first, as the bench advises, a cup moves nothing: rinsing and carrying did, or nobody saw it.
    expect(look(cupOf(seven, { wayC: 1.2 }), still)!.warning).toBeNull();
    expect(look(cupOf(seven), still)!.warning).toBeNull();
    expect(
      look(cupOf(four, { before: [inSeven], fresh: false }), trace({ to: inCup(four), temperature: () => 22 }))!
        .warning,
    ).toBeNull();
  });

  it('the clock says ready, and it still moves', () => {
    const still = { temperature: () => 22 };
    const slow = trace({ to: inCup(seven), from: inCup(seven) + 60, slow: 30, seconds: 30, ...still });
    const cup = cupOf(seven, { fresh: false });
    const { warning } = look(cup, slow, { kind: 'fixed-time', seconds: 25 })!;
    expect(warning?.id).toBe('still-moving');
    expect(
      look(cup, trace({ to: inCup(seven), seconds: 60, ...still }), { kind: 'fixed-time', seconds: 25 })!.warning,
    ).toBeNull();
  });

  it('too large a change is said when it is steady, and does not stop', () => {
    const { warning } = look(cupOf(seven), trace({ to: inCup(seven) - 25 }))!;
    expect(warning?.id).toBe('unlike-itself');
    expect(warning?.stops).toBe(false);
  });

  it('a read-back is held against what the cup gave before, whatever the history says', () => {
    const cup = cupOf(four, { anchor: { signal: inCup(four) + 9, sd: 0.3 }, fresh: false });
    expect(look(cup, trace({ to: inCup(four) + 9.4, from: inCup(four) + 9.4 }))!.warning).toBeNull();
    expect(look(cup, trace({ to: inCup(four), from: inCup(four) }))!.warning?.id).toBe('read-back');
  });
});

describe('a watched cell', () => {
  const air = CATALOGUE.find((s) => s.family === 'conductivity' && s.nominal === 0)!;
  const kcl = CATALOGUE.find((s) => s.name === '1413 µS/cm')!;
  const cellPlan = {
    family: 'conductivity',
    settings: { cellConstant: 1, alpha: 2 },
    expected: { zero: 0, zeroSd: 0.1, sensitivity: 1, sensitivitySd: 0.008 },
    workingC: 22,
  };
  const cup = (asked: Standard): Cup => ({
    plan: cellPlan,
    asked,
    shelf: CATALOGUE.filter((s) => s.family === 'conductivity'),
    before: [],
    fresh: false,
  });
  // At 22 °C the standard has 1333 µS/cm by its table, about 1413·(1 − 3·0.019).
  const at22 =
    expectedIn(modelOf(familyOf('conductivity'), cellPlan.settings), { standard: kcl, temperatureC: 22 }) * 0.94;
  const reads = (asked: Standard, to: number) =>
    look(cup(asked), trace({ to, from: to * 0.9, noise: 0.4, slow: 2, temperature: () => 22 }))?.warning?.id ?? null;

  it('is wet in air, at the end of its range, in another scale, or of another coefficient', () => {
    expect(reads(kcl, at22)).toBeNull();
    expect(reads(air, 14)).toBe('wet-cell');
    expect(reads(kcl, 1000)).toBe('wrong-range');
    expect(reads(kcl, at22 * 0.64)).toBe('scale');
    expect(reads(kcl, at22 * 0.94)).toBe('wrong-coefficient');
  });

  it('warns of a film of a few steps, and not of dust', () => {
    expect(reads(air, 4)).toBe('wet-cell');
    expect(reads(air, 0.2)).toBeNull();
  });

  it('a film that dries is one, though it may be heading for nothing, and however little is known of the zero', () => {
    for (const zeroSd of [0.1, 2, 12]) {
      const known = { ...cup(air), plan: { ...cellPlan, expected: { ...cellPlan.expected, zeroSd } } };
      const drying = (from: number) =>
        look(
          known,
          trace({ to: 0.1, from, noise: 0.2, slow: 900, temperature: () => 22 }).filter((_, i) => i % 20 === 0),
        );
      expect(drying(48)?.warning?.id, `±${zeroSd}`).toBe('wet-cell');
      const { now, expected, unit } = drying(48)!.warning!.facts as OddFacts['wet-cell'];
      expect([now > 39, now < 50, Math.abs(expected) < 0.05, unit]).toEqual([true, true, true, 'µS']);
      expect(drying(0.15)?.warning ?? null, `±${zeroSd}`).toBeNull();
    }
  });

  it('no range ends at the little that a dry cell conducts, however round its figure is', () => {
    const dry = { ...cup(air), plan: { ...cellPlan, expected: { ...cellPlan.expected, zero: 0.13 } } };
    for (const to of [0.1, 0.05, 0.02])
      expect(look(dry, trace({ to, from: to, noise: 0, temperature: () => 22 }))?.warning ?? null, `${to}`).toBeNull();
  });

  it('a little low and quiet: a small bubble or another coefficient, both named', () => {
    const low = { to: at22 * 0.955, from: at22 * 0.9, noise: 1.6, slow: 2, temperature: () => 22 };
    const { id, or } = look(cup(kcl), trace(low))!.warning!;
    expect([id, or?.id].sort()).toEqual(['bubble', 'wrong-coefficient']);
  });
});

describe('the engine', () => {
  it('shares one unit of chance among all, and says one thing at most', () => {
    const made = look(cupOf(seven), trace({ to: inCup(four) }))!;
    expect(made.sound + made.classes.reduce((sum, c) => sum + c.chance, 0)).toBeCloseTo(1, 9);
    expect(weigh([], {})).toEqual({ sound: 1, classes: [], warning: null });
  });

  it('says both of two that nothing tells apart, once the facts will not become clearer', () => {
    const text = { text: '7', celsius: 7, about: 7 };
    const a = { id: 'fahrenheit' as const, prior: 0.02, weight: () => 12.1, facts: () => text };
    const b = { id: 'far-temperature' as const, prior: 0.02, weight: () => 12, facts: () => text };
    expect(weigh([a, b], {}).sound).toBeLessThan(0.01);
    expect(weigh([a, b], {}).warning).toBeNull();
    const both = weigh([a, b], {}, undefined, true).warning;
    expect(both).toEqual({ id: 'fahrenheit', facts: text, stops: false, or: { id: 'far-temperature', facts: text } });
    // One that leaves hardly anything to the other is said alone.
    expect(weigh([{ ...a, weight: () => 16 }, b], {}, undefined, true).warning).not.toHaveProperty('or');
  });

  it('calls no two hypotheses alike', () => {
    const ids = [...IN_A_CUP, ...TYPED].map((h) => h.id);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('finds a beat by its period and height, and none in noise', () => {
    const swing = swingOf(trace({ to: 0, from: 0, beat: 5, seconds: 120 }), 1)!;
    expect(swing.periodSeconds).toBeCloseTo(7, 0);
    expect(swing.amplitude).toBeCloseTo(5, 0);
    expect(swing.share).toBeGreaterThan(0.9);
    expect(swingOf(trace({ to: 0, from: 0, seconds: 120 }), 1)!.share).toBeLessThan(0.3);
  });
});

describe('a typed figure', () => {
  const about = { unit: 'pH', expected: 7.02, sd: 0.04, others: [{ name: '4.01', value: 4.01 }], scales: [] };
  const slip = (text: string) => slipIn({ ...about, text, value: Number(text) }).warning?.id ?? null;

  it('is a slip of the comma, of two digits, or another bottle; a right one is taken', () => {
    expect(slip('7.05')).toBeNull();
    expect(slip('6.95')).toBeNull();
    expect(slip('702')).toBe('tenfold');
    expect(slip('0.702')).toBe('tenfold');
    expect(slip('7.20')).toBe('digits');
    expect(slip('4.02')).toBe('other-bottle');
    expect(slip('7.9')).toBe('far-figure');
  });

  it('is in millivolts where pH was asked, and pH where millivolts were; what nothing explains is only far', () => {
    const seven = buffer('technical-7.00');
    const four = buffer('technical-4.01');
    const glass = {
      family: 'ph',
      settings: {},
      expected: { zero: -2, zeroSd: 2, sensitivity: 0.97, sensitivitySd: 0.01 },
    };
    const inForce = { zero: -2, sensitivity: 0.97 };
    const said = (text: string, unit: string) => {
      const typed = { text, value: Number(text), unit, temperatureC: 25 };
      return slipIn(typedFacts(glass, inForce, four, typed, [seven])!).warning;
    };
    // 0.97 · 59.16 mV · 2.99 − 2 mV
    expect(said('169.6', 'pH')).toMatchObject({ id: 'other-unit', facts: { text: '169.6', otherUnit: 'mV' } });
    expect(said('169.6', 'mV')).toBeNull();
    expect(said('4.02', 'mV')?.id).toBe('other-unit');
    expect(said('-2', 'mV')?.id).toBe('other-bottle');
    expect(said('1700', 'pH')?.id).toBe('far-figure');
    expect(said('401', 'pH')?.id).toBe('tenfold');
    // What is in millivolts anyhow has no other unit, and a conductance is no other unit of a conductivity.
    const redox = { ...glass, family: 'orp', expected: { ...glass.expected, sensitivity: 1, sensitivitySd: 0 } };
    const cell = { ...glass, family: 'conductivity', expected: { ...glass.expected, sensitivity: 1 } };
    const in_ = (of: typeof glass, standard: Standard, unit: string) =>
      typedFacts(of, inForce, standard, { text: '1', value: 1, unit, temperatureC: 25 }, [])!.elsewhere;
    expect(
      in_(
        redox,
        CATALOGUE.find((s) => s.family === 'orp')!,
        'mV',
      ),
    ).toEqual([]);
    expect(
      in_(
        cell,
        CATALOGUE.find((s) => s.name === '1413 µS/cm')!,
        'µS/cm',
      ),
    ).toEqual([]);
  });

  it('in another scale, and in °F', () => {
    const kcl = CATALOGUE.find((s) => s.name === '1413 µS/cm')!;
    const of = {
      family: 'conductivity',
      settings: {},
      expected: { zero: 0, zeroSd: 0.1, sensitivity: 1, sensitivitySd: 0.01 },
    };
    const typed = { text: '989', value: 989, unit: 'µS/cm', temperatureC: 25 };
    const facts = typedFacts(of, { zero: 0, sensitivity: 1 }, kcl, typed, [])!;
    expect(facts.expected).toBeCloseTo(1413, 0);
    expect(slipIn(facts).warning?.id).toBe('typed-scale');
    expect(temperatureSlip({ text: '77', celsius: 77, about: 24 }).warning?.id).toBe('fahrenheit');
    expect(temperatureSlip({ text: '21', celsius: 21, about: 24 }).warning).toBeNull();
  });

  it('warns of an adjustment inside the noise, and not of one that corrects a real error', () => {
    const of = { uncertainty: 0.02, tolerance: 0.1, unit: 'pH', digits: 2 };
    expect(chasesNoise({ ...of, error: -0.03 }).warning?.facts).toEqual({ error: -0.03, uncertainty: 0.02, unit: 'pH', decimals: 2 }); // prettier-ignore
    expect(chasesNoise({ ...of, error: 0.08 }).warning).toBeNull();
  });
});

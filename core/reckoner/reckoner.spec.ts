import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { kindOf, unitsOf } from '../quantities/units.ts';
import { inside, shown } from './figures.ts';
import { chosenOf, curveOf, fieldKind, inWords, nudges, solve, wayAfter, type SumInput } from './solve.ts';
import { EMPTY, lookFor, sumOf, SUMS } from './sums.ts';

const SEED = 20266;

/** Types into a sum as a person does: the direction follows the fields that were typed into. */
function ask(id: string, typed: Record<string, string>, chosen: Record<string, string> = {}) {
  const sum = sumOf(id);
  const way = Object.keys(typed).reduce((w, field) => wayAfter(sum, w, field), 0);
  return solve(sum, { typed, chosen, way });
}
const found = (id: string, field: string, typed: Record<string, string>, chosen: Record<string, string> = {}) => {
  const solved = ask(id, typed, chosen);
  if (!solved.answer) throw new Error(solved.refusal ?? JSON.stringify(solved.troubles));
  const more = solved.answer.more.find((m) => m.name === field)?.value;
  return solved.answer.found[field] ?? more ?? NaN;
};

describe('what people ask at the bench', () => {
  it('buffer value at 23.4 °C: 7.00 reads 7.006, from the table between 7.02 at 20 and 7.00 at 25 °C (from memory)', () => {
    const ph = found('buffer', 'ph', { t: '23.4' });
    expect(ph).toBeGreaterThan(7.0);
    expect(ph).toBeLessThan(7.01);
    expect(found('buffer', 'ph', { t: '74.12 F' })).toBeCloseTo(ph, 6);
    expect(found('buffer', 'ph', { t: '25' }, { standard: 'primary-borax' })).toBeCloseTo(9.18, 9);
  });

  it('EC of 1.9 in the ×700 scale is 1330 (definition), and back from any scale', () => {
    expect(found('nutrient-scales', 'p7', { ec: '1.9' })).toBeCloseTo(1330, 9);
    expect(found('nutrient-scales', 'ec', { p7: '1330' })).toBeCloseTo(1.9, 9);
    expect(found('nutrient-scales', 'p5', { ec: '1330 ppm700' })).toBeCloseTo(950, 9);
    expect(found('nutrient-scales', 'cf', { p5: '950' })).toBeCloseTo(19, 9);
  });

  it('salinity and gravity from 51.2 mS/cm at 24 °C: 34.374 by PSS-78, 1.0259 at 25/25 by EOS-80, and back', () => {
    const s = found('salinity', 's', { k: '51.2', t: '24' });
    // gsw.SP_from_C(51.2, 24, 0) of TEOS-10 3.6.16 gives 34.3736
    expect(s).toBeCloseTo(34.3736, 4);
    const g = found('salinity', 'g25', { k: '51.2', t: '24' });
    expect(g).toBeCloseTo(1.0259, 4);
    expect(found('salinity', 'k', { t: '24', s: String(s) })).toBeCloseTo(51.2, 6);
    expect(found('salinity', 's', { g25: String(g) })).toBeCloseTo(s, 4);
    expect(found('salinity', 's', { g20: '1.0266' })).toBeCloseTo(35, 1);
    expect(found('salinity', 's', { k: '5.12 S/m', t: '75.2 F' })).toBeCloseTo(s, 6);
  });

  it('the box for 18 MΩ·cm with K 0.01 is 180 kΩ, and 180 kΩ stands for 18 MΩ·cm', () => {
    expect(found('resistivity-box', 'box', { r: '18', c: '0.01' })).toBeCloseTo(180, 9);
    expect(found('resistivity-box', 'r', { box: '180000 ohm', c: '0.01' })).toBeCloseTo(18, 9);
    expect(found('conductivity-box', 'box', { k: '1.413 mS/cm', c: '1' })).toBeCloseTo(707.71, 2);
  });

  it('mV at pH 8.2, 31 °C and 96 % slope: −69.5, recomputed by hand: 0.96 · 60.350 · 1.2', () => {
    expect(found('electrode', 'mv', { ph: '8.2', t: '31', s: '96' })).toBeCloseTo(-0.96 * 60.35 * 1.2, 1);
    expect(found('electrode', 'ph', { t: '31', s: '96', mv: '−69.523' })).toBeCloseTo(8.2, 4);
  });

  it('chloride activity of 0.01 mol/L KCl: 319.6 mg/L, and 319.63 mg/L takes 0.01 mol/L', () => {
    expect(found('activity', 'a', { c: '0.01' })).toBeCloseTo(319.63, 2);
    expect(found('activity', 'a', { c: '10 mmol/L' })).toBeCloseTo(319.63, 2);
    expect(found('activity', 'c', { a: '319.6324' })).toBeCloseTo(0.01, 7);
    expect(ask('activity', { a: '1e6' }).refusal).toMatch(/where Davies ends/);
  });

  it('slope of −8.4 and −176.9 mV at 24.6 °C: 94.68 % by the tables, 94.75 % by the labels, recomputed', () => {
    const typed = { e1: '-8.4', e2: '-176.9', t: '24.6' };
    expect(found('slope-of-two', 's', typed)).toBeCloseTo(94.68, 1);
    expect(found('slope-of-two', 'With the printed values it would be', typed)).toBeCloseTo(94.75, 1);
    expect(ask('slope-of-two', typed, { second: 'technical-7.00' }).refusal).toMatch(/0\.00 pH apart/);
  });

  it('relative gain of 7.29 and 10.25: 98.339 %, recomputed', () => {
    expect(found('shown-gain', 'g', { p1: '7.29', p2: '10.25', t: '25' })).toBeCloseTo(98.339, 3);
  });

  it('other sums against their published values', () => {
    expect(found('tris', 'ph', { sal: '35', t: '25' })).toBeCloseTo(8.0935, 4);
    expect(found('redox-standard', 'Against standard hydrogen', { t: '20' })).toBeCloseTo(442.8, 1);
    expect(found('redox-scale', 'eh', { e: '230', t: '25' })).toBeCloseTo(428.9, 9);
    expect(found('redox-scale', 'e', { eh: '428.9', t: '25' })).toBeCloseTo(230, 9);
    expect(found('oxygen', 'f', { o: '9.092', t: '20' })).toBeCloseTo(100, 2);
    expect(found('oxygen', 'o', { f: '100', t: '20', p: '950 mbar' })).toBeCloseTo(8.512, 3);
    expect(found('oxygen', 'o', { f: '100', t: '25', sal: '35' })).toBeCloseTo(6.772, 3);
    expect(found('ammonia', 'f', { ph: '8', t: '25' })).toBeCloseTo(5.37, 2);
    expect(found('hypochlorous', 'f', { ph: '7.5', t: '25' })).toBeCloseTo(52.1, 1);
    expect(found('rtd', 'r', { t: '35' })).toBeCloseTo(113.608, 3);
    expect(found('rtd', 't', { r: '113.608' })).toBeCloseTo(35, 2);
    expect(found('ion-gap', 'Ideal gap', { low: '46.2', high: '319', t: '25' })).toBeCloseTo(49.64, 2);
    expect(found('nitrate-forms', 'ion', { n: '5' })).toBeCloseTo(22.1332, 4);
    expect(found('nitrate-forms', 'n', { ion: '22.1332' })).toBeCloseTo(5, 4);
    expect(found('current-loop', 'v', { ma: '12' })).toBe(7);
    expect(found('weigh-in', 'm', { c: '0.01', p: '99.5' })).toBeCloseTo(0.7492, 4);
    expect(found('dilution', 'want', { take: '10' })).toBeCloseTo(50, 9);
    expect(found('conductivity-standard', 'k', { t: '20' })).toBe(1278);
    expect(found('cell-constant', 'fresh', { k: '1413', seen: '1450', c: '1' })).toBeCloseTo(0.97448, 5);
    expect(found('percent-of-span', 'e', {})).toBeCloseTo(0.5, 9);
    expect(found('compensation', 'k25', { k: '1278', t: '20' })).toBeCloseTo(1420, 9);
    expect(found('pure-water', 'k', { r: '18.18', t: '20' })).toBeCloseTo(0.0419, 4);
  });
});

describe('every sum', () => {
  for (const sum of SUMS) {
    it(`${sum.id}: answers with its usual figures in every direction, formula and ± told`, () => {
      sum.ways.forEach((way, index) => {
        const solved = solve(sum, { ...EMPTY, way: index });
        expect(solved.refusal, sum.id).toBeNull();
        for (const id of way.finds) expect(Number.isFinite(solved.answer!.found[id]), id).toBe(true);
        expect(solved.answer!.formula).toMatch(/\d/);
        expect(solved.answer!.plusMinusBecause.length).toBeGreaterThan(5);
        expect(sum.source.length).toBeGreaterThan(5);
        expect(sum.validity.length).toBeGreaterThan(5);
        for (const n of nudges(sum, solved, {})) expect(Number.isFinite(n.change)).toBe(true);
        const curve = curveOf(sum, solved, {});
        if (curve) expect(curve.points.filter((p) => p.y !== null).length).toBeGreaterThan(10);
      });
    });

    it(`${sum.id}: whatever is typed gives a number or a sentence, never NaN (seed ${SEED})`, () => {
      const text = (field: (typeof sum.fields)[number]) =>
        fc.oneof(
          fc.double({ noNaN: true }).map(String),
          fc.double({ min: -50, max: 2000, noNaN: true }).map((v) => v.toPrecision(4)),
          fc
            .tuple(
              fc.double({ min: 0, max: 100, noNaN: true }),
              fc.constantFrom(...(field.unit ? unitsOf(kindOf(field.unit)) : [''])),
            )
            .map((t) => t.join(' ')),
          fc.constantFrom('', 'abc', '1330 ppm', '−'),
        );
      const picks = fc.record(
        Object.fromEntries(sum.choices.map((c) => [c.id, fc.constantFrom(...c.options.map((o) => o.id))])),
      );
      const typed = fc.record(
        Object.fromEntries(sum.fields.map((f) => [f.id, fc.option(text(f), { nil: undefined })])),
      );
      fc.assert(
        fc.property(typed, picks, fc.nat(sum.ways.length - 1), (texts, chosen, way) => {
          const given = Object.fromEntries(Object.entries(texts).filter(([, t]) => t !== undefined)) as Record<
            string,
            string
          >;
          const solved = solve(sum, { typed: given, chosen: chosen, way });
          if (solved.answer) {
            for (const v of Object.values(solved.answer.found)) expect(Number.isFinite(v)).toBe(true);
            expect(solved.answer.formula).not.toMatch(/NaN|Infinity|undefined/);
            expect(solved.answer.more.every((m) => Number.isFinite(m.value))).toBe(true);
          } else {
            const sentences = [solved.refusal, ...Object.values(solved.troubles)].filter((s) => s !== null);
            expect(sentences.length).toBeGreaterThan(0);
            for (const s of sentences) expect(s).not.toMatch(/NaN|undefined/);
          }
        }),
        { seed: SEED, numRuns: 150 },
      );
    });
  }

  it('there and back again: what a direction finds, the other takes (seed 20266)', () => {
    const twoWay = SUMS.filter((s) => s.ways.length === 2 && s.ways[0]!.finds.length === 1);
    expect(twoWay.length).toBeGreaterThan(8);
    for (const sum of twoWay) {
      const there = solve(sum, EMPTY);
      const field = there.way.finds[0]!;
      const target = sum.ways[1]!.finds[0]!;
      const back = solve(sum, { typed: { [field]: String(there.answer!.found[field]) }, chosen: {}, way: 1 });
      expect(back.answer?.found[target], sum.id).toBeCloseTo(there.given[target]!, 5);
    }
  });

  it('ids, titles and field names are one of a kind, and curves lie along a field', () => {
    expect(new Set(SUMS.map((s) => s.id)).size).toBe(SUMS.length);
    expect(new Set(SUMS.map((s) => s.title)).size).toBe(SUMS.length);
    for (const sum of SUMS) {
      expect(new Set(sum.fields.map((f) => f.name)).size).toBe(sum.fields.length);
      const ids = sum.fields.map((f) => f.id);
      for (const way of sum.ways) expect(way.finds.every((f) => ids.includes(f))).toBe(true);
      if (sum.curve) expect(ids).toContain(sum.curve.along);
      for (const c of sum.choices) expect(c.options.map((o) => o.id)).toContain(c.usual);
    }
    expect(() => sumOf('nothing')).toThrow(/There is no sum/);
  });
});

describe('typing', () => {
  it('a slip is told at its field and nothing is answered; the others stay read', () => {
    const solved = ask('electrode', { ph: '8.2', t: '7 mV', s: 'abc' });
    expect(solved.answer).toBeNull();
    expect(solved.troubles['t']).toMatch(/mV is a potential; this takes °C/);
    expect(solved.troubles['s']).toMatch(/no figure in front/);
    expect(solved.given['ph']).toBe(8.2);
    expect(ask('current-loop', { low: 'x' }).troubles['low']).toMatch(/“x” is not a figure. Type it like 0/);
    expect(ask('current-loop', { low: '' }).troubles['low']).toBe('Nothing typed yet.');
  });

  it('the ± is that of the conditions, worked by hand', () => {
    const half = (id: string, figures: Record<string, string>, choices: Record<string, string> = {}) =>
      ask(id, figures, choices).answer!;
    // 10 µS/cm at 5 °C and 2 %/°C: 0.2 %/°C of the coefficient over 20 °C are 4 % of 0.6, that is 6.7 %.
    const cold = half('pure-water', { k: '10', t: '5' });
    expect(cold.plusMinus! / cold.found['r']!).toBeCloseTo(0.0667, 3);
    // Pure water itself at 0 °C: ±4 % of 0.0116 µS/cm over 0.5, of 0.055 µS/cm.
    const ice = half('pure-water', { k: '0.0116', t: '0' });
    expect(ice.plusMinus! / ice.found['r']!).toBeCloseTo((0.04 * 0.0116) / 0.5 / 0.055, 3);
    expect(half('pure-water', { k: '0.055', t: '25' }).plusMinus).toBeCloseTo(0, 9);
    // ±0.15 + 0.002 · 450 °C where class A ends; beyond it nothing is known, and a film ends sooner.
    expect(half('rtd', { r: '247.09' }).plusMinus).toBeCloseTo(0.95, 3);
    expect(half('rtd', { t: '850' }).plusMinus).toBeNull();
    expect(half('rtd', { t: '850' }).plusMinusBecause).toMatch(/−?-?100 to 450 °C only/);
    expect(half('rtd', { t: '400' }, { winding: 'film' }).plusMinus).toBeNull();
    // Davies at half a mole: ±15 %, at a hundredth ±2 %.
    expect(half('activity', { c: '0.5' }).plusMinus! / half('activity', { c: '0.5' }).found['a']!).toBeCloseTo(0.15, 2);
    expect(half('activity', { c: '0.01' }).plusMinus! / half('activity', { c: '0.01' }).found['a']!).toBeCloseTo(
      0.02,
      3,
    );
    // Morris measured from 5 to 35 °C.
    expect(half('hypochlorous', { t: '40' }).note).toMatch(/5 to 35 °C/);
    expect(half('hypochlorous', { t: '40' }).plusMinus).toBe(4);
    expect(half('hypochlorous', { t: '35' }).plusMinus).toBe(2);
  });

  it('what the trade asks besides: other references of temperature, coefficients, thermistors, leads, a water’s own course', () => {
    const of = (id: string, field: string, figures: Record<string, string>, choices: Record<string, string> = {}) =>
      ask(id, figures, choices).answer!.found[field]!;
    // 1278 µS/cm at 20 °C: 1420 at 25 °C by 2 %/°C; what it is at 20 °C is what was measured.
    expect(of('compensation', 'k25', { k: '1278', t: '20' }, { ref: '20' })).toBeCloseTo(1278, 9);
    expect(of('compensation', 'k25', { k: '1278', t: '10' }, { ref: '20' })).toBeCloseTo((1278 * 0.9) / 0.7, 6);
    expect(of('compensation', 'k25', { k: '500', t: '10' }, { course: 'natural water' })).toBeCloseTo(500 * 1.428, 0);
    expect(of('compensation', 'k25', { k: '500', t: '10' }, { course: 'natural water', ref: '20' })).toBeCloseTo((500 * 1.428) / 1.116, 0); // prettier-ignore
    expect(of('compensation', 'k', { k25: '714', t: '10' }, { course: 'natural water' })).toBeCloseTo(500, 0);
    // A water of 2.4 %/°C and 1000 µS/cm through a channel of 2 %/°C, at 15 and 30 °C.
    const shows = (t: number) => String((1000 * (1 + 0.024 * (t - 25))) / (1 + 0.02 * (t - 25)));
    const check = { s1: shows(15), t1: '15', s2: shows(30), t2: '30', a: '2' };
    expect(of('coefficient-check', 'real', check)).toBeCloseTo(2.4, 9);
    expect(ask('coefficient-check', { ...check, t2: '17' }).refusal).toMatch(/5 °C or more/);
    expect(of('thermistor', 't', { r: '12490' })).toBeCloseTo(20, 1);
    expect(of('thermistor', 'r', { t: '40' })).toBeCloseTo(5327, -1);
    // Half an ohm of leads is 1.28 °C of a Pt100 at 25 °C (0.3878 Ω/°C); 1 mA through 109.7 Ω with 10 mW/°C 0.011 °C.
    expect(of('thermometer-leads', 'e', { t: '25', lead: '0.5', i: '1', w: '10' })).toBeCloseTo(
      0.5 / 0.3878 + 0.011,
      2,
    );
    expect(of('ph-at-temperature', 'there', { ph: '7.4', t: '32', c: '-0.017', to: '25' })).toBeCloseTo(7.519, 9);
    expect(of('ph-at-temperature', 'ph', { there: '7.519', t: '32', c: '-0.017', to: '25' })).toBeCloseTo(7.4, 9);
    expect(of('pure-water', 'r', { k: '0.2', t: '15' }, { course: 'NaCl' })).toBeCloseTo(1 / (0.055 + (0.2 - 0.0313) * (126.45 / 101.1)), 2); // prettier-ignore
    expect(of('redox-scale', 'eh', { e: '200', t: '35' }, { from: 'silver-chloride-3m' })).toBeCloseTo(200 + 201.4, 0);
    expect(of('redox-scale', 'eh', { e: '200', t: '25' }, { from: 'calomel-saturated' })).toBeCloseTo(444, 0);
  });

  it('an interfering ion, every way round; IUPAC (Buck & Lindner 1994), by hand', () => {
    const of = (field: string, figures: Record<string, string>, choices: Record<string, string> = {}) =>
      ask('interference', figures, choices).answer!.found[field]!;
    // 0.01 mol/L of chloride at K = 0.01 is 1e-4 mol/L of nitrate.
    expect(of('a', { b: '354.5', k: '0.01' })).toBeCloseTo(6.2004, 4);
    expect(of('b', { a: '6.2004', k: '0.01' })).toBeCloseTo(354.5, 3);
    // 0.001 mol/L of a twofold ion counts by its root: 0.03162 · 0.001 mol/L of potassium.
    const calcium = { measured: 'potassium', other: 'calcium' };
    expect(of('a', { b: '40.078', k: '0.001' }, calcium)).toBeCloseTo(0.0316228 * 39.0983, 3);
    expect(of('b', { a: '1.2364', k: '0.001' }, calcium)).toBeCloseTo(40.078, 2);
    expect(ask('interference', {}, { measured: 'nitrate', other: 'sodium' }).refusal).toMatch(/same sign/);
    expect(ask('interference', {}, { measured: 'nitrate', other: 'nitrate' }).refusal).toMatch(/another pair/);
    expect(ask('interference', { a: '0' }).refusal).toMatch(/above 0/);
  });

  it('refusals say value, bound and remedy', () => {
    expect(ask('buffer', { t: '81.3' }).refusal).toMatch(
      /81\.3 °C is outside the table of 7\.00 \(0 to 50 °C\)\. Bring the cup/,
    );
    expect(ask('salinity', { k: '90', t: '24' }).refusal).toMatch(/outside the scale \(0 to 42\)/);
    expect(ask('electrode', { s: '0' }).refusal).toMatch(/slope 0 % is outside 1 to 120 %/);
    expect(ask('redox-scale', {}, { to: 'silver-chloride-1m' }).refusal).toMatch(/Pick two of one series/);
  });

  it('typing into what was found turns the sum round; typing elsewhere does not', () => {
    const sum = sumOf('electrode');
    expect(wayAfter(sum, 0, 'mv')).toBe(1);
    expect(wayAfter(sum, 1, 't')).toBe(1);
    expect(wayAfter(sum, 1, 'ph')).toBe(0);
    expect(wayAfter(sumOf('buffer'), 0, 'ph')).toBe(0);
    expect(wayAfter(sumOf('nutrient-scales'), 0, 'p6')).toBe(3);
    expect(wayAfter(sumOf('salinity'), 0, 'g20')).toBe(3);
  });

  it('a little more of each figure: one degree changes 10.01 by −0.009, a percent of slope 8.2 by −0.7 mV', () => {
    const solve10 = solve(sumOf('buffer'), { typed: { t: '25' }, chosen: { standard: 'technical-10.01' }, way: 0 });
    const [degree] = nudges(sumOf('buffer'), solve10, { standard: 'technical-10.01' });
    expect(degree!.change).toBeCloseTo(-0.008, 2);
    const input: SumInput = { typed: { ph: '8.2' }, chosen: {}, way: 0 };
    const slope = nudges(sumOf('electrode'), solve(sumOf('electrode'), input), {}).find((n) => n.field.id === 's');
    expect(slope!.change).toBeCloseTo(-0.71, 2);
    // At the end of a table there is no more: nothing is said instead of something wrong.
    expect(nudges(sumOf('buffer'), ask('buffer', { t: '50' }), {})).toEqual([]);
  });

  it('the curve has the point in it and a gap where the sum refuses', () => {
    const solved = ask('buffer', { t: '23.4' }, { standard: 'technical-4.01' });
    const curve = curveOf(sumOf('buffer'), solved, { standard: 'technical-4.01' })!;
    expect(curve.here.x).toBe(23.4);
    expect(curve.points[0]!.y).toBeNull();
    expect(curve.points.at(-1)!.y).toBeCloseTo(4.06, 9);
    expect(curveOf(sumOf('weigh-in'), ask('weigh-in', {}), {})).toBeNull();
    expect(curveOf(sumOf('salinity'), solve(sumOf('salinity'), { ...EMPTY, way: 1 }), {})).toBeNull();
  });

  it('unknown picks fall back to the usual one', () => {
    expect(chosenOf(sumOf('buffer'), { standard: 'gone' })).toEqual({ standard: 'technical-7.00' });
  });
});

describe('looking for a sum', () => {
  it.each([
    ['81.3 F', 'temperature', 'c', 27.389],
    ['1.41 mS/cm', 'nutrient-scales', 'p7', 987],
    ['18 MΩ·cm', 'resistivity-box', 'box', 180],
    ['0.01 M', 'activity', 'a', 319.63],
    ['109.73 ohm', 'conductivity-box', 'k', 9113.3],
  ])('“%s” answers in %s at once', (text, id, field, value) => {
    const { hits, read } = lookFor(text);
    expect(read).not.toBeNull();
    const hit = hits.find((h) => h.sum.id === id)!;
    expect(hits.slice(0, 4).map((h) => h.sum.id)).toContain(id);
    expect(Math.abs(hit.solved!.answer!.found[field]! / value - 1)).toBeLessThan(1e-3);
  });

  it('words find titles first, then what people call it; nothing typed shows all; nonsense shows none', () => {
    expect(
      lookFor('box')
        .hits.map((h) => h.sum.id)
        .slice(0, 2),
    ).toEqual(['resistivity-box', 'conductivity-box']);
    expect(lookFor('tds').hits[0]!.sum.id).toBe('nutrient-scales');
    expect(lookFor('  ').hits).toHaveLength(SUMS.length);
    expect(lookFor('spaghetti').hits).toEqual([]);
  });

  it('every sum is found by its own title', () => {
    for (const sum of SUMS) expect(lookFor(sum.title).hits[0]!.sum.id).toBe(sum.id);
  });
});

describe('figures as they are read', () => {
  it('minus, digits, brackets', () => {
    expect(shown(-0.0001, 1)).toBe('0.0');
    expect(shown(180000)).toBe('180000');
    expect(shown(1e-7)).toBe('0.0000001');
    expect(shown(123456789012)).toBe('1.2346e+11');
    expect(inside(-8.4, 1)).toBe('(−8.4)');
    expect(inWords(sumOf('buffer').fields[0]!, 23.4)).toBe('23.4 °C');
    expect(inWords(sumOf('current-loop').fields[0]!, 3)).toBe('3');
    expect(fieldKind(sumOf('current-loop').fields[0]!)).toBeNull();
  });
});

import { describe, expect, it } from 'vitest';
import { seededChance } from './chance.ts';
import { coverageFactor, effectiveFreedom } from './coverage-factor.ts';
import { cusum, ewma } from './control-charts.ts';
import { fitLine } from './line.ts';
import { chanceOutside, normalCdf, Z50, Z95 } from './normal.ts';
import { runRules } from './run-rules.ts';
import { interpolate } from './shape-preserving-cubic.ts';

const SEED = 20_288;

describe('run rules: NIST/SEMATECH e-Handbook 6.3.2', () => {
  it.each([
    ['one beyond 3', [0.2, -3.1]],
    ['2 of 3 beyond 2', [2.2, -0.4, 2.1]],
    ['4 of 5 beyond 1', [-1.2, -1.4, 0.3, -1.1, -1.6]],
    ['8 on one side', [0.1, 0.2, 0.4, 0.1, 0.3, 0.2, 0.6, 0.1]],
  ] as const)('%s', (id, series) => {
    const said = runRules(series);
    expect(said.at(-1)).toEqual([id]);
    expect(said.slice(0, -1).flat()).toEqual([]);
    // The same on the other side; and a last figure on the other side completes nothing.
    expect(runRules(series.map((x) => -x)).at(-1)).toEqual([id]);
    expect(runRules([...series.slice(0, -1), -series.at(-1)! / 10]).at(-1)).toEqual([]);
  });

  it('what lies further back than a rule looks does not count', () => {
    expect(runRules([2.2, 0.1, 0.1, 2.1]).flat()).toEqual([]);
    expect(runRules([-1.2, -1.4, -1.1, 0.3, 0.3, -1.6]).flat()).toEqual([]);
    expect(runRules([0.1, -0.1, 0.2, 0.4, 0.1, 0.3, 0.2, 0.6, 0.1]).flat()).toEqual([]);
  });

  it('a limit that is met exactly is not passed', () => {
    expect(runRules([3, 2, 2]).flat()).toEqual([]);
    expect(runRules([0, 0, 0, 0, 0, 0, 0, 0]).flat()).toEqual([]);
  });

  it(`without any change all four together speak every 91.75 figures (the handbook's figure; seed ${SEED})`, () => {
    const chance = seededChance(SEED);
    let [figures, alarms] = [0, 0];
    while (alarms < 1500) {
      const series: number[] = [];
      do series.push(chance.normal());
      while (!runRules(series.slice(-8)).at(-1)!.length);
      figures += series.length;
      alarms++;
    }
    // 1500 lengths of nearly exponential spread: 2.6 % standard deviation.
    expect(Math.abs(figures / alarms / 91.75 - 1)).toBeLessThan(0.09);
  });
});

describe('coverage factors: JCGM 100:2008, table G.2', () => {
  it('every row is Student’s t for 95.45 % (scipy 1.17.1, t.ppf), and what lies between takes the row below it', () => {
    const scipy = [13.968, 4.527, 3.307, 2.869, 2.649, 2.517, 2.429, 2.366, 2.32, 2.284, 2.255, 2.231, 2.212, 2.195, 2.181, 2.169, 2.158, 2.149, 2.14, 2.133, 2.105, 2.087, 2.074, 2.064, 2.057, 2.051, 2.025]; // prettier-ignore
    const rows = [...Array.from({ length: 20 }, (_, i) => i + 1), 25, 30, 35, 40, 45, 50, 100];
    rows.forEach((dof, i) => {
      // Printed to two decimals, once or twice rounded up.
      expect(Math.abs(coverageFactor(dof) - scipy[i]!), `${dof}`).toBeLessThan(0.0105);
      if (i) expect(coverageFactor(dof - 0.01)).toBe(coverageFactor(rows[i - 1]!));
    });
    expect([15, 19.9, 25, 1e7, Infinity, 0.5].map(coverageFactor)).toEqual([2.18, 2.14, 2.11, 2, 2, 13.97]);
    // Where two rows differ by a hundredth only, the one of 45 begins at 45.
    expect([44.9, 45, 49.9, 50].map(coverageFactor)).toEqual([2.06, 2.06, 2.06, 2.05]);
  });

  it('what adds nothing limits nothing, whatever it rests on', () => {
    expect(effectiveFreedom([])).toBe(Infinity);
    expect(effectiveFreedom([{ uncertainty: 0, degreesOfFreedom: 0 }])).toBe(Infinity);
    const one = { uncertainty: 3, degreesOfFreedom: 4 };
    expect(effectiveFreedom([one, { uncertainty: 0, degreesOfFreedom: 0 }])).toBe(4);
  });
});

describe('charts refuse what makes no chart', () => {
  it('λ, spread and limits', () => {
    for (const lambda of [0, -0.1, 1.01, NaN]) expect(() => ewma([1], 0, 1, lambda)).toThrow(/weight of the newest/);
    expect(() => ewma([1], 0, -1)).toThrow(/standard deviation/);
    expect(() => ewma([1], 0, 1, 0.3, NaN)).toThrow(/limit/);
    expect(ewma([2], 0, 1, 1)[0]!.value).toBe(2);
    expect(cusum([1, 1], 0, 0.5, 1)[1]!.upper).toBe(1);
    expect(cusum([-1, -1], 0, 0.5, 0.9).map((s) => [s.upper, s.lower, s.out])).toEqual([
      [0, 0.5, false],
      [0, 1, true],
    ]);
    expect(cusum([0], 0, 0, 1)[0]).toEqual({ upper: 0, lower: 0, out: false });
    // λ is 0.3 where nobody says otherwise; limits of half a standard deviation of an average of half.
    expect(ewma([1], 0, 0.5, undefined, 0.5)[0]).toMatchObject({ value: 0.3, out: true });
    expect(ewma([1], 0, 0.5, undefined, 0.5)[0]!.high).toBeCloseTo(0.25 * Math.sqrt(0.3 / 1.7), 12);
    expect(ewma([5], 0, 0)[0]!.out).toBe(true);
    for (const bad of [NaN, Infinity]) {
      expect(() => ewma([bad], 0, 1)).toThrow(/series/);
      expect(() => cusum([bad], 0, 1, 1)).toThrow(/series/);
      expect(() => cusum([1], 0, bad, 1)).toThrow(/slack/);
    }
  });
});

describe('the normal distribution and the rectangular one', () => {
  it('its points of 95 and 50 %, and what has no spread', () => {
    // scipy 1.17.1: norm.ppf(0.975), norm.ppf(0.75)
    expect(Z95).toBeCloseTo(1.95996398, 6);
    expect(Z50).toBeCloseTo(0.67448975, 5);
    expect(normalCdf(Z95)).toBeCloseTo(0.975, 6);
    expect([chanceOutside(0.5, 0, 1), chanceOutside(-2, 0, 1), chanceOutside(0, 0, 0.5)]).toEqual([0, 1, 0]);
    expect(chanceOutside(1, 2, 3)).toBeCloseTo(1 - (0.841344746 - 0.022750132), 7);
  });

  it(`a rectangle of standard deviation one ends at ±√3 (seed ${SEED})`, () => {
    const chance = seededChance(SEED);
    const draws = Array.from({ length: 20_000 }, () => chance.rectangular());
    const mean = draws.reduce((s, x) => s + x, 0) / draws.length;
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(Math.sqrt(draws.reduce((s, x) => s + x * x, 0) / draws.length)).toBeCloseTo(1, 1.6);
    const most = Math.max(...draws.map(Math.abs));
    expect(most).toBeLessThanOrEqual(Math.sqrt(3));
    expect(most).toBeGreaterThan(1.73);
  });

  it('three points have one degree of freedom, two have none', () => {
    // (0, 0), (1, 3), (2, 0): the line is y = 1, what is left are −1, 2 and −1.
    const line = fitLine([[0, 0], [1, 3], [2, 0]]); // prettier-ignore
    expect(line).toMatchObject({ ok: true, slope: 0, intercept: 1 });
    expect(line.ok && line.residualSd).toBeCloseTo(Math.sqrt(6), 12);
    expect(fitLine([[0, 0], [1, 3]])).toMatchObject({ residualSd: 0 }); // prettier-ignore
  });

  it('the cubic between rows is that of Fritsch and Butland: scipy 1.17.1, PchipInterpolator', () => {
    const rows = [[0, 0], [1, 2], [4, 3], [6, 7], [10, 7.5]] as const; // prettier-ignore
    // Only the ends, whose slope is the secant’s here, differ.
    const theirs = [[2, 2.414214214], [3.5, 2.762637638], [4.7, 4.262906522], [5.5, 6.357880435]] as const; // prettier-ignore
    theirs.forEach(([x, y]) => expect(interpolate(rows, x), `${x}`).toBeCloseTo(y, 8));
  });
});

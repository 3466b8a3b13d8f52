import { describe, expect, it } from 'vitest';
import { seededChance } from './chance.ts';
import { coverageFactor, effectiveFreedom } from './coverage-factor.ts';
import { cusum, ewma } from './control-charts.ts';
import { runRules } from './run-rules.ts';

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
  });

  it('what adds nothing limits nothing, whatever it rests on', () => {
    expect(effectiveFreedom([])).toBe(Infinity);
    expect(effectiveFreedom([{ uncertainty: 0, degreesOfFreedom: 0 }])).toBe(Infinity);
    const one = { uncertainty: 1, degreesOfFreedom: 4 };
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
  });
});

import { describe, expect, it } from 'vitest';
import { seededChance } from './chance.ts';
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

describe('charts refuse what makes no chart', () => {
  it('λ, spread and limits', () => {
    for (const lambda of [0, -0.1, 1.01, NaN]) expect(() => ewma([1], 0, 1, lambda)).toThrow(/weight of the newest/);
    expect(() => ewma([1], 0, -1)).toThrow(/standard deviation/);
    expect(() => ewma([1], 0, 1, 0.3, NaN)).toThrow(/limit/);
    expect(ewma([2], 0, 1, 1)[0]!.value).toBe(2);
    expect(cusum([1, 1], 0, 0.5, 1)[1]!.upper).toBe(1);
  });
});

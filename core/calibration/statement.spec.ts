import { describe, expect, it } from 'vitest';
import { Paper, planFor, point } from '../testing/a-run.ts';
import { expandedOf } from '../sensor/working-error.ts';
import { nernstSlope } from '../solutions/nernst-slope.ts';
import { valueAt } from '../solutions/standard.ts';
import { seededChance } from '../statistics/chance.ts';
import type { RunPlan } from './events.ts';
import { outcomeOf } from './outcome.ts';
import { provable } from './provable.ts';
import { provesOf, statementOf, statementWords } from './statement.ts';
import { judge } from './verdict.ts';

const SEED = Number(process.env['FRUSTUM_STATEMENT_SEED'] ?? 20_261_201);
const VERDICTS = 20_000;

describe('what a measurement proves of a tolerance', () => {
  it('a hundredth beyond it, with a ± as large as it: cannot tell (JCGM 106, by hand 1 − Φ(−0.254) + Φ(−3.43) = 0.6005)', () => {
    const measured = { error: 0.058, uncertainty: 0.0315 };
    expect(statementOf(measured, 0.05)).toMatchObject({ says: 'cannot tell', guard: 0.063 });
    expect(statementOf(measured, 0.05).chanceOutside).toBeCloseTo(0.6005, 4);
    expect(statementOf(measured, 0.05, 0)).toMatchObject({ says: 'outside', guard: 0 });
  });

  it('on either side of each limit, either sign, with the coverage factor that was made of it', () => {
    const says = (error: number, guardShare?: number, coverageFactor?: number) =>
      statementOf({ error, uncertainty: 0.01, ...(coverageFactor ? { coverageFactor } : {}) }, 0.1, guardShare).says;
    for (const side of [1, -1]) {
      expect([0.0799, 0.0801, 0.1, 0.1199, 0.1201].map((e) => says(side * e))).toEqual(['inside', 'cannot tell', 'cannot tell', 'cannot tell', 'outside']); // prettier-ignore
      expect([0.1, 0.1001].map((e) => says(side * e, 0))).toEqual(['inside', 'outside']);
      expect([0.089, 0.091].map((e) => says(side * e, 0.5))).toEqual(['inside', 'cannot tell']);
      expect([0.071, 0.073].map((e) => says(side * e, 1, 2.8))).toEqual(['inside', 'cannot tell']);
    }
    expect(statementOf({ error: 0.05, uncertainty: 0 }, 0.1)).toMatchObject({ says: 'inside', chanceOutside: 0 });
    expect(statementOf({ error: 0.15, uncertainty: 0 }, 0.1)).toMatchObject({ says: 'outside', chanceOutside: 1 });
  });

  it(`stated chances are what comes: ${VERDICTS} verdicts a band, errors drawn evenly, seed ${SEED}`, () => {
    const dice = seededChance(SEED);
    const [tolerance, uncertainty] = [0.1, 0.03];
    for (const [from, to] of [
      [0, 0.02],
      [0.05, 0.07],
      [0.08, 0.1],
      [0.1, 0.12],
      [0.13, 0.15],
    ] as const) {
      // prettier-ignore
      let outside = 0;
      let stated = 0;
      let taken = 0;
      while (taken < VERDICTS) {
        // Nothing is known of the error beforehand; what is measured falls into the band.
        const error = 0.4 * (dice.uniform() - 0.5);
        const measured = error + uncertainty * dice.normal();
        if (measured < from || measured >= to) continue;
        taken++;
        outside += Number(Math.abs(error) > tolerance);
        stated += statementOf({ error: measured, uncertainty }, tolerance).chanceOutside;
      }
      expect(Math.abs(outside - stated) / VERDICTS, `${from} to ${to}, seed ${SEED}`).toBeLessThan(0.01);
    }
  });

  it('in words, with the rule and the chance that it is wrong', () => {
    const written = { unit: 'pH', digits: 2, size: (x: number) => x };
    const words = (error: number, guardShare?: number) =>
      statementWords(statementOf({ error, uncertainty: 0.03 }, 0.1, guardShare), 0.1, written);
    expect(words(0.02)).toBe('Inside ±0.10 pH, guarded by 0.06: a chance of 0.4 % that it is outside all the same.');
    expect(words(0.09)).toBe(
      'Cannot tell whether it is inside ±0.10 pH, guarded by 0.06: outside with a chance of 37 %.',
    );
    expect(words(0.2)).toBe('Outside ±0.10 pH, guarded by 0.06: a chance of less than 0.1 % that it is inside all the same.'); // prettier-ignore
    expect(words(0.09, 0)).toMatch(/^Inside ±0\.10 pH, simply accepted: a chance of 37 %/);
  });
});

describe('statement and action', () => {
  const two = [point('technical-7.00'), point('technical-4.01')];
  /** A run in which the working point at pH 7.5 is shown wrong by so much. */
  function runOff(byPh: number, more: Partial<RunPlan> = {}) {
    const run = new Paper(planFor('ph', 'calibrate', two, { inForce: { zero: 0, sensitivity: 0.97 }, ...more }));
    while (run.state.current!.kind !== 'decide') {
      const { standard } = two[run.state.current!.pointIndex ?? 0]!;
      run.does(-0.97 * nernstSlope(22) * (valueAt(standard, 22) - 7 + byPh));
    }
    return run;
  }

  it('probably outside, and inside its own ±: it is neither left nor adjusted, but measured anew', () => {
    const { working } = judge(runOff(0).state)!;
    const u = expandedOf(working);
    const run = runOff(0.9 * u, { tolerance: 0.8 * u });
    const verdict = judge(run.state)!;
    expect(verdict.statement!.says).toBe('cannot tell');
    expect(verdict.statement!.chanceOutside).toBeGreaterThan(0.5);
    expect(verdict.action).toBe('investigate');
    expect(verdict.sentence).toMatch(/^Investigate it: cannot tell, /);
    expect(verdict.reasons[0]!.text).toMatch(/second fresh lot, or with standards and a thermometer of a smaller ±/);
    // Inside the tolerance and inside its own ±: left, whatever was proven.
    const inside = judge(runOff(0.75 * u, { tolerance: 0.8 * u }).state)!;
    expect([inside.action, inside.statement!.says]).toEqual(['leave', 'cannot tell']);
    // Beyond both it is adjusted.
    expect(judge(runOff(1.5 * u, { tolerance: 0.8 * u }).state)!.action).toBe('adjust');
    const outcome = outcomeOf(run.decides('leave').state)!;
    expect(outcome.statement).toEqual(verdict.statement);
    const simple = judge(runOff(0.75 * u, { tolerance: 0.8 * u, limits: { ...run.state.plan.limits, guardShare: 0 } }).state)!; // prettier-ignore
    expect(simple.statement).toMatchObject({ says: 'inside', guard: 0 });
  });

  it('says before the run what it will prove: the ± of the run itself, within a tenth', () => {
    for (const standards of [two, [point('technical-7.00'), point('technical-10.01')]]) {
      const plan = planFor('ph', 'calibrate', standards, { tolerance: 0.15, inForce: { zero: 0, sensitivity: 0.97 } });
      const before = provable(plan)!;
      const run = new Paper(plan);
      while (run.state.current!.kind !== 'decide') {
        const { standard } = standards[run.state.current!.pointIndex ?? 0]!;
        run.does(-0.97 * nernstSlope(22) * (valueAt(standard, 22) - 7), { signalUncertainty: 0.3 });
      }
      const after = expandedOf(judge(run.state)!.working);
      expect(Math.abs(before.expanded / after - 1), standards[1]!.standard.name).toBeLessThan(0.1);
      expect(before.proves).toBe('enough');
    }
    const wide = planFor('ph', 'calibrate', two, { tolerance: 0.03 });
    expect(provable(wide)!.proves).toBe('nothing');
    expect(provable({ ...wide, limits: { ...wide.limits, guardShare: 0 } })!.proves).toBe('enough');
    expect(provable({ ...wide, points: [] })).toBeNull();
  });

  it('less than half of the tolerance left is the middle only', () => {
    expect([0.049, 0.051, 0.0999, 0.1].map((u) => provesOf(u, 0.1))).toEqual(['enough', 'only the middle', 'only the middle', 'nothing']); // prettier-ignore
    expect(provesOf(0.12, 0.1, 0.5)).toBe('only the middle');
  });
});

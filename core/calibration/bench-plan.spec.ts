import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../families/catalogue.ts';
import { planBench, planOnPaper } from './bench-plan.ts';

const BUFFERS = ['technical-7.00', 'technical-4.01'].map((id) => CATALOGUE.find((s) => s.id === id)!);
const plan = (loopName: string, controls = '', workingValue = 5.8) =>
  planOnPaper({ family: 'ph', loopName, workingValue, workingC: 22, tolerance: 0.2, controls }, BUFFERS);
const bench = (names: readonly string[], controls = '') => Object.fromEntries(names.map((n) => [n, plan(n, controls)]));
const AT_ONCE = () => 9;
const ONE = () => 1;

describe('the plan of a bench', () => {
  it('one alone saves nothing: out, two cups with a wiggle each, verdict, back, and four settlings', () => {
    const { movements, seconds, oneByOneSeconds } = planBench(bench(['A']), ONE);
    expect(movements.map((m) => m.kind)).toEqual(['move', 'move', 'wiggle', 'move', 'wiggle', 'decide', 'return']);
    // By hand: six movements of 15 s, a verdict of 20 s, two settlings of 90 s and two of 45 s.
    expect(seconds).toBe(6 * 15 + 20 + 2 * 90 + 2 * 45);
    expect(oneByOneSeconds).toBe(seconds);
  });

  it('three in one cup take little longer than one; in a cup for each in turn they wait for each other', () => {
    const together = planBench(bench(['A', 'B', 'C']), AT_ONCE);
    const inTurn = planBench(bench(['A', 'B', 'C']), ONE);
    const alone = planBench(bench(['A']), ONE).seconds;
    expect(together.oneByOneSeconds).toBe(3 * alone);
    expect(together.seconds).toBeLessThan(2 * alone);
    expect(inTurn.seconds).toBeGreaterThan(together.seconds);
    expect(inTurn.seconds).toBeLessThan(3 * alone);
  });

  it('holds come first, and every run comes back: never two movements at once, never more in a standard than there is room (seed 77)', () => {
    const names = ['A', 'B', 'C', 'D'];
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 }), (count, room) => {
        const of = names.slice(0, count);
        const { movements, seconds, oneByOneSeconds } = planBench(bench(of, 'acid dosing'), () => room);
        expect(movements.slice(0, count).map((m) => m.kind)).toEqual(of.map(() => 'hold'));
        expect(
          movements
            .filter((m) => m.kind === 'return')
            .map((m) => m.runId)
            .sort(),
        ).toEqual(of);
        expect(movements.slice(1).every((m, i) => m.atSeconds >= movements[i]!.atSeconds + 15)).toBe(true);
        expect(seconds).toBeLessThanOrEqual(oneByOneSeconds);
        const inside = new Map<string, string>();
        for (const { runId, stepId } of movements) {
          const cup = /place\.(\d)/.exec(stepId)?.[1];
          if (cup) inside.set(runId, cup);
          else if (stepId === 'return') inside.delete(runId);
          const all = [...inside.values()];
          expect(Math.max(0, ...['0', '1'].map((c) => all.filter((x) => x === c).length))).toBeLessThanOrEqual(room);
        }
      }),
      { seed: 77, numRuns: 16 },
    );
  });

  it('a school by the clock dwells as long as it says', () => {
    const slow = { ...plan('A'), school: { kind: 'fixed-time' as const, seconds: 300 } };
    // Without a wiggle: five movements, a verdict, two dwells.
    expect(planBench({ A: slow }, ONE).seconds).toBe(4 * 15 + 20 + 2 * 300);
  });
});

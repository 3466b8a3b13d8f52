import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../families/catalogue.ts';
import { cupInUse, leastCarryOver, nextMovement, waitsFor, type OnTheBench } from './bench-of-many.ts';
import { planOnPaper } from './bench-plan.ts';
import type { Capture, RunEvent, RunEventBody, RunPlan } from './events.ts';
import { replay } from './replay.ts';

const standard = (id: string) => CATALOGUE.find((s) => s.id === id)!;
const [SEVEN, FOUR, TEN] = ['technical-7.00', 'technical-4.01', 'technical-10.01'].map(standard);

const plan = (loopName: string, workingValue: number, controls = ''): RunPlan =>
  planOnPaper({ family: 'ph', loopName, workingValue, workingC: 22, tolerance: 0.2, controls }, [SEVEN!, FOUR!]);

/** A run that has come so far, and how its settling stands. */
function at(
  name: string,
  workingValue: number,
  done: readonly string[],
  settling: Partial<OnTheBench['settling']> | null = null,
  controls = '',
): OnTheBench {
  const bodies: RunEventBody[] = [
    { type: 'started', plan: plan(name, workingValue, controls) },
    ...done.map((stepId): RunEventBody => {
      if (!/settle|repeat/.test(stepId)) return { type: 'step-done', stepId, traceSeconds: null };
      const purpose = stepId.includes('settle') ? 'as-found' : 'repeat';
      const capture: Capture = {
        pointIndex: Number(stepId.at(-1)),
        purpose,
        method: 'live',
        signal: 0,
        signalUncertainty: 0.1,
        temperatureC: 22,
        settledSeconds: 1,
        t90: null,
        trace: [],
      };
      return { type: 'captured', stepId, traceSeconds: null, capture };
    }),
  ];
  const events = bodies.map((body, i): RunEvent => ({
    seq: i + 1,
    device: 'paper-device',
    counter: i + 1,
    at: '2026-11-25T09:00:00.000Z',
    by: '',
    body,
  }));
  const usual = { ready: false, armed: true, warned: false, wiggled: true, toGo: 60 };
  return { runId: name, state: replay(events), settling: settling && { ...usual, ...settling } };
}

const IN_SEVEN = ['take-out', 'p1.place.0'];

describe('what is carried from cup to cup', () => {
  it('strong into weak is worse than weak into strong, and pH from its water takes the near buffer first', () => {
    const cells = ['kcl-0.1', 'kcl-84', 'kcl-0.01'].map(standard);
    const of = { family: 'conductivity', settings: {}, workingValue: 60 };
    expect(leastCarryOver(of, cells).map((s) => s.id)).toEqual(['kcl-84', 'kcl-0.01', 'kcl-0.1']);
    expect(leastCarryOver({ family: 'ph', workingValue: 8.1 }, [FOUR!, TEN!, SEVEN!]).at(-1)).toBe(FOUR);
    expect(leastCarryOver({ family: 'ph', workingValue: 5.8 }, [FOUR!])).toEqual([FOUR]);
  });
});

describe('the next hand movement', () => {
  it('holds come before anything leaves the water', () => {
    const all = [at('A', 5.8, []), at('B', 5.9, [], null, 'acid dosing')];
    expect(nextMovement(all)).toMatchObject({ runId: 'B', kind: 'hold' });
  });

  it('one cup serves one after the other: the second waits, and moves when it is free', () => {
    const first = at('A', 5.8, IN_SEVEN, {});
    const second = at('B', 5.9, ['take-out']);
    expect(cupInUse(first)).toBe('technical-7.00');
    expect(waitsFor(second, [first, second])!.runId).toBe('A');
    expect(nextMovement([first, second])).toMatchObject({ runId: 'A', kind: 'free', seconds: 60 });
    // Still in the cup until it goes to the next one.
    const leaving = at('A', 5.8, [...IN_SEVEN, 'p1.settle.0', 'p1.repeat.0']);
    expect(cupInUse(leaving)).toBe('technical-7.00');
    expect(nextMovement([leaving, second])).toMatchObject({
      runId: 'A',
      kind: 'move',
      title: 'Rinse, blot, into fresh 4.01',
    });
    const gone = at('A', 5.8, [...IN_SEVEN, 'p1.settle.0', 'p1.repeat.0', 'p1.place.1'], {});
    expect(nextMovement([gone, second])).toMatchObject({ runId: 'B', kind: 'move' });
  });

  it('two that may stand in one cup do not wait for each other', () => {
    const all = [at('A', 5.8, IN_SEVEN, {}), at('B', 5.9, ['take-out'])];
    expect(nextMovement(all, () => 2)).toMatchObject({ runId: 'B', kind: 'move' });
    const three = [...all, at('C', 5.8, IN_SEVEN, {})];
    expect(nextMovement(three, () => 2)).toMatchObject({ kind: 'free' });
    expect(waitsFor(three[1]!, three, (id) => (id === 'technical-7.00' ? 2 : 9))!.runId).toBe('A');
  });

  it('of several that may move the cleanest goes first', () => {
    expect(nextMovement([at('A', 4.5, ['take-out']), at('B', 6.9, ['take-out'])])!.runId).toBe('B');
  });

  it('a question about a cup, a reading that is ready and a wiggle come before walking on', () => {
    const walking = at('C', 6.9, []);
    expect(nextMovement([walking, at('A', 5.8, IN_SEVEN, { ready: true, armed: false })])).toMatchObject({
      runId: 'A',
      kind: 'capture',
    });
    expect(nextMovement([walking, at('A', 5.8, [...IN_SEVEN, 'p1.settle.0'], { wiggled: false })])).toMatchObject({
      kind: 'wiggle',
    });
    expect(nextMovement([walking, at('A', 5.8, IN_SEVEN, { warned: true })])).toMatchObject({ kind: 'answer' });
  });

  it('what was named stays named until it is done, though something more urgent comes up meanwhile', () => {
    const moving = at('C', 6.9, []);
    const named = nextMovement([moving, at('A', 5.8, IN_SEVEN, {})])!;
    expect(named).toMatchObject({ runId: 'C', kind: 'move' });
    const all = [moving, at('A', 5.8, [...IN_SEVEN, 'p1.settle.0'], { wiggled: false })];
    expect(nextMovement(all)!.runId).toBe('A');
    expect(nextMovement(all, undefined, named)!.runId).toBe('C');
    // Once it is done the more urgent one is named; and what only settles holds nobody up.
    const done = [at('C', 6.9, ['take-out']), all[1]!];
    expect(nextMovement(done, undefined, named)).toMatchObject({ runId: 'A', kind: 'wiggle' });
    const free = nextMovement([at('A', 5.8, IN_SEVEN, {})]);
    expect(nextMovement([moving, at('A', 5.8, IN_SEVEN, {})], undefined, free)!.runId).toBe('C');
  });

  it('when all settle it says who wants hands first, and nothing when nothing is open', () => {
    const all = [
      at('A', 5.8, IN_SEVEN, { toGo: 90 }),
      at('B', 5.9, [...IN_SEVEN, 'p1.settle.0', 'p1.repeat.0', 'p1.place.1'], { toGo: 30 }),
    ];
    expect(nextMovement(all)).toMatchObject({ runId: 'B', kind: 'free', seconds: 30 });
    expect(nextMovement([])).toBeNull();
  });
});

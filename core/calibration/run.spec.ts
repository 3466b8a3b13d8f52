import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { millivolts } from '../families/ph/electrode.ts';
import { PH_LIMITS } from '../families/ph/limits.ts';
import { STATISTICAL } from '../settling/settle.ts';
import { buffer } from '../solutions/buffers.ts';
import { valueAt, withOwnTable } from '../solutions/standard.ts';
import type { RunEvent, RunEventBody, RunPlan } from './events.ts';
import { pointsOf } from './measured.ts';
import { outcomeOf } from './outcome.ts';
import { afterRefusal, ownFigures } from './refused.ts';
import { apply, replay } from './replay.ts';
import type { RunState } from './state.ts';
import { judge } from './verdict.ts';
import type { Coefficients } from '../sensor/coefficients.ts';

const plan: RunPlan = {
  family: 'ph',
  loopName: 'Reservoir 1 pH',
  sensorName: 'Reservoir 1 pH probe',
  points: [
    { standard: buffer('technical-7.00'), lot: { id: 'a', label: 'K-1' } },
    { standard: buffer('technical-4.01'), lot: { id: 'b', label: 'M-1' } },
  ],
  school: STATISTICAL,
  controls: 'acid dosing',
  workingValue: 5.8,
  workingC: 22,
  tolerance: 0.15,
  limits: PH_LIMITS,
  inForce: { zero: 0, sensitivity: 0.98 },
  inForceKnown: true,
  expected: { zero: 0, zeroSd: 5, sensitivity: 0.98, sensitivitySd: 0.02 },
  channelKind: 'modbus',
  resolution: 0.1,
};

/** A run on paper: events one after the other, numbered as the server would. */
class Paper {
  readonly events: RunEvent[] = [];

  constructor(of: RunPlan = plan) {
    this.add({ type: 'started', plan: of });
  }

  add(body: RunEventBody): RunState {
    const seq = this.events.length + 1;
    const at = new Date(Date.UTC(2026, 10, 23, 9, 0, seq)).toISOString();
    this.events.push({ seq, device: 'paper-device', counter: seq, at, by: 'Operator A', body });
    return this.state;
  }

  get state(): RunState {
    return replay(this.events);
  }

  done(stepId: string): RunState {
    return this.add({ type: 'step-done', stepId, traceSeconds: null });
  }

  capture(electrode: Coefficients, offsetMv = 0, t90: number | null = 20): RunState {
    const step = this.state.current!;
    const point = this.state.plan.points[step.pointIndex!]!;
    const signal = millivolts(valueAt(point.standard, 22), 22, electrode) + offsetMv;
    return this.add({
      type: 'captured',
      stepId: step.id,
      traceSeconds: 60 * this.events.length,
      capture: {
        pointIndex: step.pointIndex!,
        purpose: step.purpose!,
        method: 'live',
        signal,
        signalUncertainty: 0.2,
        temperatureC: 22,
        settledSeconds: 60,
        t90,
        trace: [],
      },
    });
  }

  /** Through hold, both standards and both repeats, up to the verdict. */
  upToVerdict(electrode: Coefficients, t90: number | null = 20): RunState {
    while (this.state.current && this.state.current.kind !== 'decide') {
      const step = this.state.current;
      if (step.kind === 'settle') this.capture(electrode, 0, t90);
      else this.done(step.id);
    }
    return this.state;
  }
}

describe('a run is its events', () => {
  it('leads through hold, standards, repeats, verdict and back, in this order', () => {
    expect(new Paper().state.steps.map((s) => s.id)).toEqual([
      'hold',
      'take-out',
      'p1.place.0',
      'p1.settle.0',
      'p1.repeat.0',
      'p1.place.1',
      'p1.settle.1',
      'p1.repeat.1',
      'p1.decide',
      'return',
    ]);
    const hand = new Paper({ ...plan, channelKind: 'hand', controls: '' });
    expect(hand.state.steps.map((s) => s.id)).toEqual([
      'take-out',
      'p1.place.0',
      'p1.settle.0',
      'p1.place.1',
      'p1.settle.1',
      'p1.decide',
      'return',
    ]);
  });

  it('adjusts, reads back, returns, releases the hold, and ends', () => {
    const paper = new Paper();
    const electrode = { zero: -9, sensitivity: 0.94 };
    expect(paper.done('hold').hold).toMatchObject({ releasedAt: null });
    paper.upToVerdict(electrode);
    expect(judge(paper.state)!.action).toBe('adjust');
    const { traceFrom } = paper.state;
    expect(traceFrom).toBeGreaterThan(0);
    paper.add({ type: 'decided', action: 'adjust', because: '' });
    expect(paper.state.current!.id).toBe('adjust');
    paper.add({ type: 'adjusted', coefficients: electrode, how: 'written' });
    expect(paper.state.current!.id).toBe('read-back');
    // Read back is the last cup, not the whole way there.
    expect(paper.state.traceFrom).toBe(traceFrom);
    paper.capture(electrode);
    expect(() => apply(paper.state, { ...paper.events[0]!, seq: 99, body: { type: 'closed' } })).toThrow(/still to do/);
    expect(paper.done('return').hold!.releasedAt).not.toBeNull();
    const outcome = outcomeOf(paper.add({ type: 'closed' }))!;
    expect(outcome.kind).toBe('calibration');
    expect(outcome.coefficients.sensitivity).toBeCloseTo(0.94, 6);
    expect(outcome.asLeft.error).toBeCloseTo(0, 6);
    // Closed form at 22 °C, k = 58.56: shown − 5.8 for zero −9 mV and 94 % read with 0 mV and 98 %.
    expect(outcome.asFound.error).toBeCloseTo(7 - (-9 + 0.94 * 58.564 * 1.2) / (0.98 * 58.564) - 5.8, 3);
    expect(outcome.readBackShown).toBeCloseTo(4.004, 2);
    expect(() => paper.done('hold')).toThrow(/This run ended/);
  });

  it('cleans and goes through the standards once more; the first pass stays the as-found one', () => {
    const paper = new Paper();
    paper.upToVerdict({ zero: 0, sensitivity: 0.8 });
    expect(judge(paper.state)).toMatchObject({ action: 'clean-and-retest' });
    paper.add({ type: 'decided', action: 'clean-and-retest', because: '' });
    expect(paper.state.current!.title).toBe('Clean the probe');
    paper.upToVerdict({ zero: 0, sensitivity: 0.975 });
    expect(judge(paper.state)!.action).toBe('leave');
    paper.add({ type: 'decided', action: 'leave', because: '' });
    paper.done('return');
    const outcome = outcomeOf(paper.add({ type: 'closed' }))!;
    expect(outcome).toMatchObject({ kind: 'verification', cleaned: true });
    expect(Math.abs(outcome.asFound.error)).toBeGreaterThan(0.15);
    expect(Math.abs(outcome.asLeft.error)).toBeLessThan(0.02);
  });

  it('asks for another settling when two do not agree, and counts the last two', () => {
    const paper = new Paper();
    ['hold', 'take-out', 'p1.place.0'].forEach((id) => paper.done(id));
    paper.capture({ zero: 0, sensitivity: 1 }, 6.5);
    paper.capture({ zero: 0, sensitivity: 1 });
    expect(paper.state.current!.id).toBe('p1.repeat.0.1');
    paper.capture({ zero: 0, sensitivity: 1 }, 0.2);
    expect(paper.state.current!.id).toBe('p1.place.1');
    expect(pointsOf(paper.state)[0]!.disagreement).toBeCloseTo(0.2, 9);
  });

  it('goes back to a step: what followed is open again, and its captures no longer stand', () => {
    const paper = new Paper();
    paper.upToVerdict({ zero: 0, sensitivity: 1 });
    paper.add({ type: 'step-reopened', stepId: 'p1.settle.1', traceSeconds: 12 });
    expect(paper.state.current!.id).toBe('p1.settle.1');
    expect(paper.state.traceFrom).toBe(12);
    expect(paper.state.captures.map((c) => c.stepId)).toEqual(['p1.settle.0', 'p1.repeat.0']);
    expect(judge(paper.state)).toBeNull();
    expect(paper.events).toHaveLength(paper.state.seq);
  });

  it('a disturbance on a clock that began anew begins the trace anew; one without a live value is kept all the same', () => {
    const paper = new Paper();
    ['hold', 'take-out'].forEach((id) => paper.done(id));
    const placed = { type: 'step-done', stepId: 'p1.place.0', traceSeconds: 500, traceEpoch: 'one' } as const;
    expect(paper.add(placed)).toMatchObject({ traceFrom: 500, traceEpoch: 'one', disturbed: false });
    const at = (traceSeconds: number | null, traceEpoch: string | null) =>
      paper.add({ type: 'disturbed', stepId: 'p1.settle.0', noticed: false, traceSeconds, traceEpoch });
    expect(at(520, 'one')).toMatchObject({ traceFrom: 500, traceEpoch: 'one', disturbedAt: 520, disturbed: true });
    const since = paper.state.traceSince;
    expect(at(3, 'two')).toMatchObject({ traceFrom: 3, traceEpoch: 'two', disturbedAt: 3, disturbed: true });
    expect(Date.parse(paper.state.traceSince)).toBeGreaterThan(Date.parse(since));
    expect(at(null, null)).toMatchObject({ traceFrom: null, traceEpoch: null, disturbedAt: null, disturbed: true });
    expect(paper.state.disturbances).toBe(3);
  });

  it('refuses a capture in a cup outside its bottle’s table, and the run stands where it stood', () => {
    const own = withOwnTable(
      buffer('technical-7.00'),
      [
        [20, 7.05],
        [25, 7.03],
      ],
      { plusMinus: 0.02, k: 2 },
    );
    const paper = new Paper({ ...plan, points: [{ ...plan.points[0]!, standard: own }, plan.points[1]!] });
    ['hold', 'take-out', 'p1.place.0'].forEach((id) => paper.done(id));
    const before = paper.state;
    const body = {
      type: 'captured',
      stepId: 'p1.settle.0',
      traceSeconds: null,
      capture: {
        pointIndex: 0,
        purpose: 'as-found',
        method: 'live',
        signal: -3,
        signalUncertainty: 0.2,
        temperatureC: 19.99,
        settledSeconds: 60,
        t90: 20,
        trace: [],
      },
    } as const;
    const at = { seq: 5, device: 'paper-device', counter: 5, at: '2026-11-23T09:00:05Z', by: 'Operator A' };
    expect(() => apply(before, { ...at, body })).toThrow(
      /19\.99 °C is outside the table of 7\.00 \(20 to 25 °C\)\. Bring the cup/,
    );
    expect(paper.state.current!.id).toBe('p1.settle.0');
    const inside = apply(before, { ...at, body: { ...body, capture: { ...body.capture, temperatureC: 20.01 } } });
    expect(inside.captures).toHaveLength(1);
  });

  describe('an instrument that refuses the calibration', () => {
    const upTo = (electrode: Coefficients, action: 'adjust' | 'leave' = 'adjust') => {
      const paper = new Paper();
      paper.upToVerdict(electrode);
      paper.add({ type: 'decided', action, because: 'it has to' });
      return paper;
    };
    const refused = (electrode: Coefficients, shows: Coefficients | null) => {
      const paper = upTo(electrode);
      paper.add({ type: 'adjustment-refused', message: 'Err 7', shows });
      return paper;
    };
    const SOUND = { zero: -9, sensitivity: 0.94 };

    it('changed nothing: no read-back, as left is as found, and the refusal is in the outcome', () => {
      const paper = refused(SOUND, null);
      expect(paper.state.current!.id).toBe('return');
      paper.done('return');
      const { outcome, ended } = { ended: paper.add({ type: 'closed' }), outcome: outcomeOf(paper.state)! };
      expect(ended.hold!.releasedAt).not.toBeNull();
      expect(outcome).toMatchObject({ kind: 'verification', action: 'adjust', readBackShown: null });
      expect(outcome.refused).toEqual({ message: 'Err 7', shows: null });
      expect(outcome.inForceAfter).toEqual(outcome.inForceBefore);
      expect(outcome.asLeft).toEqual(outcome.asFound);
    });

    it('is taken back by going back to the step, and is out of place elsewhere', () => {
      const paper = refused(SOUND, null);
      const back = paper.add({ type: 'step-reopened', stepId: 'adjust', traceSeconds: null });
      expect(back).toMatchObject({ refused: null, current: { id: 'adjust' } });
      paper.add({ type: 'adjusted', coefficients: SOUND, how: 'written' });
      expect(paper.state.current!.id).toBe('read-back');
      expect(() => upTo(SOUND, 'leave').add({ type: 'adjustment-refused', message: 'no', shows: null })).toThrow(
        /nothing to adjust at this step/,
      );
    });

    it.each([
      ['shows what was found', SOUND, { zero: -11, sensitivity: 0.93 }, 'alike', 'It reckons what this run found too'],
      ['shows another slope', SOUND, { zero: -9, sensitivity: 0.71 }, 'other', 'It reckons other figures'],
      ['shows another zero', SOUND, { zero: 31, sensitivity: 0.94 }, 'other', 'It reckons other figures'],
      ['shows nothing, and both are within limits', SOUND, null, 'not shown', 'This run found both within limits'],
      ['shows nothing of a dead one', { zero: -48, sensitivity: 0.7 }, null, 'not shown', 'Clean it and test it again'],
    ] as const)('%s: the next step follows', (_, electrode, shows, own, words) => {
      const { state } = refused(electrode, shows);
      expect(ownFigures(state)).toBe(own);
      expect(afterRefusal(state)).toContain(words);
    });

    it('a sound one that was adjusted against the verdict is not called worn', () => {
      const { state } = refused({ zero: 0, sensitivity: 0.98 }, null);
      expect(judge(state)!.action).toBe('leave');
      expect(afterRefusal(state)).toContain('This run found both within limits');
    });

    it('says nothing where none was refused', () => {
      expect(afterRefusal(upTo(SOUND).state)).toBeNull();
      expect(ownFigures(upTo(SOUND).state)).toBe('not shown');
    });
  });

  it('refuses what is out of place, with the way out', () => {
    const paper = new Paper();
    expect(() => paper.add({ type: 'decided', action: 'leave', because: '' })).toThrow(/Capture all standards first/);
    expect(() =>
      apply(new Paper().state, {
        ...paper.events[0]!,
        body: { type: 'step-done', stepId: 'nowhere', traceSeconds: null },
      }),
    ).toThrow(/Reload the bench/);
    expect(() => replay([])).toThrow(/Start a new one/);
    const held = new Paper();
    held.done('hold');
    held.add({ type: 'abandoned', because: 'called away' });
    expect(held.state).toMatchObject({ status: 'abandoned', hold: { releasedAt: null } });
    expect(held.add({ type: 'hold-released' }).hold!.releasedAt).not.toBeNull();
  });

  it('gives the same state whether replayed at once or event by event, for any order of harmless facts (seed 404)', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('noted', 'disturbed', 'warned', 'step'), { maxLength: 25 }), (kinds) => {
        const paper = new Paper();
        let state = paper.state;
        for (const kind of kinds) {
          const step = paper.state.current;
          if (kind === 'noted') paper.add({ type: 'noted', text: 'x' });
          else if (!step || step.kind === 'decide') continue;
          else if (kind === 'disturbed')
            paper.add({ type: 'disturbed', stepId: step.id, traceSeconds: 3, noticed: true });
          else if (kind === 'warned')
            paper.add({
              type: 'warned',
              stepId: step.id,
              odd: { id: 'as-said', facts: { text: 'w', was: '' } },
              kept: false,
            });
          else if (step.kind === 'settle') paper.capture({ zero: 1, sensitivity: 0.97 });
          else paper.done(step.id);
          state = apply(state, paper.events.at(-1)!);
        }
        expect(state).toEqual(paper.state);
      }),
      { seed: 404 },
    );
  });
});

describe('the verdict', () => {
  const of = (electrode: Coefficients, change: Partial<RunPlan> = {}, t90: number | null = 20) =>
    judge(new Paper({ ...plan, ...change }).upToVerdict(electrode, t90))!;

  it.each([
    ['leave', { zero: 0, sensitivity: 0.98 }, 'error-inside'],
    ['adjust', { zero: -8, sensitivity: 0.97 }, 'error-needs-adjusting'],
    ['clean-and-retest', { zero: -34, sensitivity: 0.97 }, 'zero-large'],
    ['clean-and-retest', { zero: 0, sensitivity: 0.83 }, 'slope-low'],
    ['investigate', { zero: 0, sensitivity: 1.04 }, 'slope-high'],
    ['investigate', { zero: 0, sensitivity: 0.04 }, 'cups-alike'],
  ] as const)('%s for %j: %s', (action, electrode, code) => {
    const verdict = of(electrode);
    expect(verdict.action).toBe(action);
    expect(verdict.reasons.map((r) => r.code)).toContain(code);
    expect(verdict.sentence).toMatch(/^(Leave it|Adjust it|Investigate it|Clean and retest|Replace it): /);
  });

  it('says value, limit and place in its sentence', () => {
    expect(of({ zero: 1, sensitivity: 0.98 }).sentence).toBe('Leave it: 0.02 pH off at 5.8, tolerance 0.15.');
  });

  it('does not adjust inside the noise: beyond half a tight tolerance, but less than its own ±', () => {
    const verdict = of({ zero: -1, sensitivity: 0.98 }, { tolerance: 0.02 });
    expect(verdict.action).toBe('leave');
    expect(verdict.reasons[0]!.code).toBe('error-inside-noise');
  });

  it('a slow probe is cleaned first', () => {
    expect(of({ zero: 0, sensitivity: 0.98 }, {}, 240).reasons[0]).toMatchObject({
      code: 'slow',
      value: 240,
      limit: 180,
    });
  });

  it('a first calibration is adjusted, whatever it finds', () => {
    expect(of({ zero: 0, sensitivity: 1 }, { inForceKnown: false, inForce: { zero: 0, sensitivity: 1 } }).action).toBe(
      'adjust',
    );
  });
});

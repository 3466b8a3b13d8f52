import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../families/catalogue.ts';
import { nernstSlope } from '../solutions/nernst-slope.ts';
import { valueAt } from '../solutions/standard.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';
import { Paper, planFor, point, standard } from '../testing/a-run.ts';
import { boxStandard, spanVerdict, usualBoxes } from './electrical.ts';
import type { RunPlan } from './events.ts';
import { gatesOf, leaningWith, type LeansOn } from './gates.ts';
import { outcomeOf } from './outcome.ts';
import { responseIn, stepIn } from './plan.ts';
import { farFromWork, pointsTrouble, requirePoints, suggestedSet } from './points.ts';
import { refusedForSensor } from './refused.ts';
import { adjustTrouble, judge, whyNotJudged } from './verdict.ts';

/** What a run says, and what becomes of what was said: by hand, on both sides of each limit. */

const PH = [point('technical-7.00'), point('technical-4.01')];
/** What glass gives in a standard at 22 °C. */
const glass = (id: string, zero: number, slope = 0.97) =>
  zero - slope * nernstSlope(22) * (valueAt(standard(id), 22) - 7);

/** Through a run up to its verdict: signals by point, the repeats off by so much. */
function upToVerdict(plan: RunPlan, signals: readonly number[], repeatOff = 0, more = {}) {
  const run = new Paper(plan);
  while (run.state.current && run.state.current.kind !== 'decide') {
    const { pointIndex = 0, purpose } = run.state.current;
    // Once up, once down: however often it is wiggled, the last two do not agree.
    const way = purpose === 'repeat' ? (run.events.length % 2 ? 1 : -1) : 0;
    run.does(signals[pointIndex]! + way * repeatOff, more);
  }
  return run;
}
const calibrated = (zero = 2, slope = 0.97, plan = planFor('ph', 'calibrate', PH)) =>
  upToVerdict(plan, [glass('technical-7.00', zero, slope), glass('technical-4.01', zero, slope)]);
const textsOf = (run: Paper) =>
  judge(run.state)!
    .reasons.map((r) => r.text)
    .join(' ');

describe('what speaks against a run', () => {
  it('cups that read alike, in millivolts, with the test that would tell why; nothing is adjusted by them', () => {
    const alike = calibrated(3, 0.049);
    expect(judge(alike.state)).toMatchObject({ action: 'investigate' });
    expect(judge(alike.state)!.sentence).toMatch(/^Investigate it: both cups read alike: cracked glass/);
    expect(textsOf(alike)).toMatch(
      /7\.00 gave .*4\.9 % of what a sound sensor moves by.*What would tell: take the cap/,
    );
    expect(adjustTrouble(alike.state)).toMatch(/no slope to adjust by/);
    const three = [...PH, point('technical-10.01')];
    const all = upToVerdict(planFor('ph', 'calibrate', three), [3, 3, 3]);
    expect(judge(all.state)!.sentence).toMatch(/all cups read alike/);
    // A slope that is merely dead has read something.
    expect(judge(calibrated(3, 0.051).state)!.action).toBe('replace');
    expect(adjustTrouble(calibrated().state)).toBeNull();
    // One cup alone cannot be alike with anything.
    const one = upToVerdict(planFor('ph', 'verify', PH.slice(0, 1)), [1]);
    expect(judge(one.state)!.action).toBe('leave');
  });

  it('an instrument that shows more than 3 mV with its input shorted', () => {
    const plan = planFor('ph', 'calibrate', [
      { standard: ZERO_PLUG, lot: { id: '', label: '' }, role: 'input' },
      ...PH,
    ]);
    const with3 = (mv: number) =>
      judge(upToVerdict(plan, [mv, glass('technical-7.00', 2), glass('technical-4.01', 2)]).state)!;
    expect(with3(3).reasons.some((r) => r.code === 'input-off')).toBe(false);
    const off = with3(-3.1);
    expect(off.action).toBe('investigate');
    expect(off.sentence).toMatch(/the instrument shows −3\.1 mV; the limit is ±3/);
  });

  it('nothing while a standard is missing; a figure that no sensor gives is a reason, and no crash', () => {
    expect(whyNotJudged(new Paper(planFor('ph', 'calibrate', PH)).state)).toMatch(/standard is still missing/);
    expect(whyNotJudged(calibrated().state)).toBeNull();
  });

  it('settlings that differ, a slow answer, and a bottle that does not lie on the line, each with its limit', () => {
    const differ = upToVerdict(
      planFor('ph', 'calibrate', PH),
      [glass('technical-7.00', 2), glass('technical-4.01', 2)],
      6,
    );
    expect(textsOf(differ)).toMatch(/Two settlings in 7\.00 differ by 0\.20\d pH; the limit is 0\.0\d/);
    const slow = upToVerdict(
      planFor('ph', 'calibrate', PH),
      [glass('technical-7.00', 2), glass('technical-4.01', 2)],
      0,
      { t90: 200 },
    );
    expect(textsOf(slow)).toMatch(/took 200 s for nine tenths of the way; the limit is 180 s/);
    const quick = upToVerdict(
      planFor('ph', 'calibrate', PH),
      [glass('technical-7.00', 2), glass('technical-4.01', 2)],
      0,
      { t90: 180 },
    );
    expect(textsOf(quick)).not.toMatch(/took/);
    const three = planFor('ph', 'calibrate', [...PH, point('technical-10.01')]);
    const bent = upToVerdict(three, [
      glass('technical-7.00', 2),
      glass('technical-4.01', 2),
      glass('technical-10.01', 12),
    ]);
    expect(judge(bent.state)!.action).toBe('investigate');
    expect(textsOf(bent)).toMatch(/do not lie on one line \(χ² \d+\.\d, limit 6\.635\)/);
  });
});

describe('what becomes of a run', () => {
  const ended = (run: Paper, action: 'leave' | 'adjust' = 'leave') => {
    run.decides(action);
    if (action === 'adjust') {
      const { zero, sensitivity } = judge(run.state)!.calibration.coefficients;
      run.add({
        type: 'adjusted',
        stepId: run.state.current!.id,
        coefficients: { zero, sensitivity },
        traceSeconds: null,
      } as never);
    }
    return run;
  };

  it('what the sensor gave in each bottle that was noted, at 25 °C, by the line that was found', () => {
    const run = ended(calibrated(2, 0.97));
    const outcome = outcomeOf(run.state)!;
    const [seven, four] = outcome.bottles!;
    expect(seven!.signal).toBeCloseTo(outcome.coefficients.zero, 9);
    const ideal = -nernstSlope(25) * (4.01 - 7);
    expect(four!.signal).toBeCloseTo(outcome.coefficients.zero + outcome.coefficients.sensitivity * ideal, 9);
    const [[zz, zs], [, ss]] = outcome.covariance;
    expect(four!.sd).toBeCloseTo(Math.sqrt(zz + 2 * ideal * zs + ideal ** 2 * ss), 9);
    expect([four!.lotId, four!.standard]).toEqual(['technical-4.01', '4.01']);
    const unnoted = planFor(
      'ph',
      'calibrate',
      PH.map((p) => ({ ...p, lot: { id: '', label: '' } })),
    );
    expect(outcomeOf(ended(calibrated(2, 0.97, unnoted)).state)!.bottles).toEqual([]);
  });

  it('nothing before a decision; the slowest answer with its temperature; what the history lent is not learned from', () => {
    expect(outcomeOf(calibrated().state)).toBeNull();
    const timed = new Paper(planFor('ph', 'calibrate', PH));
    let cup = 0;
    while (timed.state.current!.kind !== 'decide') {
      const { pointIndex = 0, kind } = timed.state.current!;
      timed.does(glass(PH[pointIndex]!.standard.id, 2), {
        t90: kind === 'settle' ? 10 + 5 * pointIndex : 0,
        temperatureC: 22,
      });
      cup++;
    }
    expect(cup).toBeGreaterThan(4);
    const outcome = outcomeOf(timed.decides('leave').state)!;
    expect([outcome.t90, outcome.t90C]).toEqual([15, 22]);
    expect([outcome.cleaned, outcome.readBackShown, outcome.kind]).toEqual([false, null, 'verification']);
    // The thermometer of the loop stood in both cups: without it less is unknown of the zero than with it.
    expect(outcome.evidence![0][0]).toBeLessThan(outcome.covariance[0][0]);
    const by = outcome.byThermometer!;
    expect(outcome.covariance[0][0] - outcome.evidence![0][0]).toBeCloseTo(by.zero ** 2, 12);
    expect(outcome.covariance[0][1] - outcome.evidence![0][1]).toBeCloseTo(by.zero * by.sensitivity, 12);
  });

  it('a refusal speaks of the sensor, unless the instrument reckoned something else from the same cups', () => {
    const found = { coefficients: { zero: 2, sensitivity: 0.97 }, covariance: [[0.04, 0], [0, 1e-5]] as never }; // prettier-ignore
    const refused = (shows: { zero: number; sensitivity: number } | null) =>
      refusedForSensor({ ...found, refused: { message: '', shows } }, 0.59);
    expect(refusedForSensor(found, 0.59)).toBe(false);
    expect(refused(null)).toBe(true);
    expect(refused({ zero: 2.1, sensitivity: 0.97 })).toBe(true);
    expect(refused({ zero: 40, sensitivity: 0.97 })).toBe(false);
    expect(refused({ zero: 2.1, sensitivity: 0.9 })).toBe(false);
  });

  it('warnings, photos and notes are kept with their moment, also after the end', () => {
    const run = calibrated();
    run.add({ type: 'warned', stepId: 'p1.settle.0', odd: { id: 'x' } as never, kept: true } as never);
    run.add({ type: 'photographed', photoId: 'ph-1', stepId: 'p1.settle.0', typed: '7.02' } as never);
    run.add({ type: 'noted', text: 'growth on the bulb' } as never);
    expect(run.state.warnings).toMatchObject([{ stepId: 'p1.settle.0', kept: true }]);
    expect(run.state.photos).toMatchObject([{ photoId: 'ph-1', typed: '7.02', by: 'Operator A' }]);
    expect(run.state.notes).toMatchObject([{ text: 'growth on the bulb', by: 'Operator A' }]);
    run.add({ type: 'abandoned', because: 'called away' } as never);
    expect(run.state).toMatchObject({ status: 'abandoned', abandonedBecause: 'called away' });
    run.add({ type: 'noted', text: 'went on later' } as never);
    expect(run.state.notes).toHaveLength(2);
    expect(() => run.add({ type: 'photographed', photoId: 'x', stepId: 'p1.settle.0', typed: null } as never)).toThrow(
      /This run ended 2026-/,
    );
    expect(() => run.add({ type: 'started', plan: planFor('ph', 'calibrate', PH) })).toThrow(/This run ended/);
  });

  it('reopened at a cup, what came before it stands and what came after does not', () => {
    const run = calibrated();
    const before = run.state.captures.length;
    run.add({ type: 'step-reopened', stepId: 'p1.settle.1', traceSeconds: null });
    expect(run.state.current!.id).toBe('p1.settle.1');
    expect(run.state.captures.length).toBe(before - 2);
    expect(run.state.captures.every((c) => c.pointIndex === 0)).toBe(true);
    const held = new Paper(planFor('ph', 'calibrate', PH, { controls: 'acid dosing' }));
    held.does();
    expect(held.state.hold).toMatchObject({ releasedAt: null });
    held.does();
    held.add({ type: 'step-reopened', stepId: 'take-out', traceSeconds: null });
    expect(held.state.hold).not.toBeNull();
    held.add({ type: 'step-reopened', stepId: 'hold', traceSeconds: null });
    expect(held.state.hold).toBeNull();
  });
});

describe('before a run', () => {
  it('what is typed is not leaned on any more', () => {
    const lean = (gives: readonly string[]): LeansOn => ({
      loopName: 'L',
      family: 'salinity',
      gives: gives as never,
      dueMs: 0,
      outside: false,
    });
    const all = [lean([]), lean(['salinity']), lean(['salinity', 'pressureKPa'])];
    const left = leaningWith({ salinity: 35 }, all);
    expect(left.map((l) => l.gives)).toEqual([[], ['pressureKPa']]);
    expect(leaningWith({}, all)).toEqual(all);
  });

  it('what comes first and is due, outside or never calibrated stands in the way, each in its words', () => {
    const nowMs = Date.UTC(2026, 10, 24, 12);
    const gate = (of: Partial<LeansOn>) =>
      gatesOf({ nowMs, timeZone: 'UTC', family: 'oxygen-optical', lots: [], leansOn: [{ loopName: 'L', family: 'salinity', gives: ['salinity'], dueMs: nowMs + 1, outside: false, ...of }] }).map((g) => `${g.id}: ${g.text} ${g.reason}`); // prettier-ignore
    expect(gate({})).toEqual([]);
    expect(gate({ dueMs: nowMs })[0]).toMatch(/^prerequisite:L: L has been due for 0 days/);
    expect(gate({ dueMs: nowMs - 3 * 86_400_000 })[0]).toMatch(/due for 3 days.*takes the salinity from it/);
    expect(gate({ outside: true })[0]).toMatch(/probably outside its tolerance/);
    expect(gate({ dueMs: null })[0]).toMatch(/never calibrated/);
    expect(gate({ dueMs: null, gives: [], family: 'temperature' })[0]).toMatch(/^thermometer:L:.*compensated by it/);
    expect(gate({ dueMs: null, gives: [], family: 'ph' })[0]).toMatch(/same reference as this tip/);
    const opened = (openedOn: string, usedUpOn: string | null = null) =>
      gatesOf({ nowMs, timeZone: 'UTC', family: 'ph', leansOn: [], lots: [{ label: 'K', standardName: '7.00', expiresOn: '2026-11-24', openedOn, usedUpOn }] }).map((g) => g.id); // prettier-ignore
    expect(opened('2026-11-01')).toEqual([]);
    expect(opened('2026-08-26')).toEqual([]);
    expect(opened('2026-08-25')).toEqual(['lot-open-long:7.00']);
    expect(opened('2026-08-25', '2026-11-20')).toEqual(['lot-used-up:7.00']);
  });

  it('standards that make no run, each with the way out', () => {
    const loop = { family: 'ph', settings: {}, workingValue: 7.5, workingC: 25 };
    const trouble = (ids: readonly string[], kind: 'calibrate' | 'verify' | 'check-first' = 'calibrate') =>
      pointsTrouble(loop, kind, ids.map(standard));
    expect(trouble(['technical-7.00', 'technical-10.01'])).toBeNull();
    expect(trouble(['kcl-0.01'])).toMatch(/no standard for sensors of pH/);
    expect(trouble(['technical-7.00', 'technical-7.00'])).toMatch(/twice/);
    expect(trouble([])).toMatch(/Pick a standard/);
    expect(trouble(['technical-1.68', 'technical-4.01', 'technical-7.00', 'technical-9.00', 'technical-10.01', 'primary-borax'].filter((id) => CATALOGUE.some((s) => s.id === id)).concat(['primary-phosphate', 'primary-phthalate']))).toMatch(/takes at most 5/); // prettier-ignore
    // One buffer determines the zero: that is enough for a verification, and for glass to be set by.
    expect(trouble(['technical-7.00'], 'verify')).toBeNull();
    expect(() => requirePoints(loop, 'calibrate', [])).toThrow(/Pick a standard/);
    expect(() =>
      requirePoints(loop, 'calibrate', [standard('technical-7.00'), standard('technical-10.01')]),
    ).not.toThrow();
    const tip = { ...loop, family: 'ion', workingValue: 100 };
    expect(pointsTrouble(tip, 'calibrate', [standard('chloride-46')])).toMatch(
      /needs 2 standards to be calibrated, and one is chosen/,
    );
    expect(pointsTrouble(tip, 'verify', [standard('chloride-46')])).toBeNull();
    expect(pointsTrouble(tip, 'check-first', [standard('chloride-46')])).toBeNull();
  });

  it('standards that are near each other, or do not stand about the water, and those that do', () => {
    const far = (workingValue: number, ids: readonly string[]) =>
      farFromWork({ family: 'ph', workingValue, workingC: 25 }, ids.map(standard)).map((f) => f.id);
    expect(far(8.1, ['technical-7.00', 'technical-10.01'])).toEqual([]);
    expect(far(8.1, ['technical-7.00', 'technical-4.01'])).toEqual(['working-outside']);
    expect(far(3, ['technical-7.00', 'technical-4.01'])).toEqual(['working-outside']);
    expect(far(8.1, ['technical-7.00'])).toEqual([]);
    expect(far(9.5, ['technical-9.00', 'technical-10.01'])).toEqual(['standards-near']);
    expect(farFromWork({ family: 'conductivity', workingValue: 1, workingC: 25 }, [standard('kcl-0.01'), standard('kcl-0.1')])).toEqual([]); // prettier-ignore
    expect(farFromWork({ family: 'ph', workingValue: 8.1, workingC: 22 }, ['technical-7.00', 'technical-4.01'].map(standard))[0]!.text).toMatch(/^This loop works at pH 8\.10; the standards go from 4\.0\d to 7\.0\d\.$/); // prettier-ignore
    expect(suggestedSet({ family: 'ph', workingValue: 5, workingC: 25 }, CATALOGUE)).toContain('technical-4.01');
    expect(suggestedSet({ family: 'temperature', workingValue: 5, workingC: 25 }, CATALOGUE)).toEqual([]);
  });

  it('how a signal goes with the temperature of its cup, from both sides', () => {
    const plan = planFor('ph', 'calibrate', PH);
    const ten = standard('technical-10.01');
    const at = (c: number) => -nernstSlope(c) * (valueAt(ten, c) - 7);
    expect(responseIn(plan, ten).perC).toBeCloseTo((at(26) - at(24)) / 2, 9);
    expect(responseIn(plan, null)).toMatchObject({ perC: 0, step: 0.59 });
    const cell = planFor('conductivity', 'calibrate', [point('kcl-0.01')]);
    expect(stepIn(cell, standard('kcl-0.01'), 25)).toBeCloseTo(1413 * 0.003, 3);
  });
});

describe('boxes', () => {
  const boxes = (values: readonly number[], more: Partial<RunPlan> = {}, verify = -1) =>
    planFor('electrical', 'electrical', values.map((applied, i) => ({ standard: boxStandard({ label: `${applied}`, applied, use: 'adjust' }, 'mA'), lot: { id: '', label: '' }, ...(i === verify ? { role: 'verify' as const } : {}) })), { settings: { unit: 'mA' }, tolerance: 0.5, ...more }); // prettier-ignore
  const verdict = (plan: RunPlan, shown: readonly number[]) => spanVerdict(upToVerdict(plan, shown).state);

  it('are adjusted beyond the limit, left inside, and looked into where only what is looked at is off', () => {
    expect(verdict(boxes([4, 20]), [4.01, 20])).toMatchObject({ action: 'leave', sentence: 'Leave it: at most +0.06 % of span, limit 0.5 %.' }); // prettier-ignore
    expect(verdict(boxes([4, 20]), [3.9, 20])).toMatchObject({ action: 'adjust', sentence: 'Adjust it: −0.63 % of span, limit 0.5 %.' }); // prettier-ignore
    expect(verdict(boxes([4, 12, 20], {}, 1), [4, 12.2, 20]).action).toBe('investigate');
    expect(verdict(boxes([4, 12, 20], {}, 1), [4, 12.2, 20]).reasons[0]!.text).toMatch(/^12: shown 12\.200 for 12\.000 mA, \+1\.25 % of span, only looked at; limit 0\.5 %\.$/); // prettier-ignore
    // The transmitter's own span, where it is known.
    expect(verdict(boxes([4, 12], { span: 16 }), [4.09, 12]).action).toBe('adjust');
    expect(verdict(boxes([4, 12], { span: 32 }), [4.09, 12]).action).toBe('leave');
    expect(verdict(boxes([12]), [12.1]).action).toBe('adjust');
  });

  it('have labels that one can dial', () => {
    expect(usualBoxes('MΩ·cm', { cellConstant: 1 }).map((b) => b.label)).toEqual(['1 MΩ', '10 MΩ', '18 MΩ']);
    expect(usualBoxes('mV', { low: -100, high: null }).map((b) => b.applied)).toEqual([-150, 0, 150]);
    expect(usualBoxes('µS').map((b) => b.label)).toEqual(['10 kΩ', '1 kΩ', '200 Ω']);
  });
});

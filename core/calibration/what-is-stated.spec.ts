import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { coneOf } from '../knowledge/history.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { pointsFor, type Lot } from '../knowledge/plan.ts';
import type { Fitted } from '../knowledge/fitted.ts';
import type { LotId } from '../quantities/ids.ts';
import { expandedOf } from '../sensor/working-error.ts';
import { buffer } from '../solutions/buffers.ts';
import { AIR } from '../solutions/without-liquid.ts';
import { REDOX_STANDARDS } from '../solutions/redox-standards.ts';
import { ageUncertainty, certified, still, valueAt, withOwnTable, type Standard } from '../solutions/standard.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from '../solutions/conductivity-standards.ts';
import { CATALOGUE } from '../families/catalogue.ts';
import { planOnPaper } from './bench-plan.ts';
import type { Capture, RunEvent, RunEventBody, RunPlan } from './events.ts';
import { sensorDoubts } from './doubts.ts';
import { calibrationOf } from './fit.ts';
import { pointsOf } from './measured.ts';
import { outcomeOf } from './outcome.ts';
import { replay } from './replay.ts';
import type { RunState } from './state.ts';
import { errorAtWork, judge } from './verdict.ts';

const NOW = Date.parse('2026-11-25T12:00:00Z');
const ph = (over: Partial<RunPlan> = {}, standards: readonly Standard[] = [buffer('technical-7.00'), buffer('technical-4.01')]): RunPlan => ({ ...planOnPaper({ family: 'ph', loopName: 'pH', workingValue: 5.8, workingC: 25, tolerance: 0.1 }, standards), ...over }); // prettier-ignore

/** A run in which every cup is captured as these say; what is adjusted is what was found. */
function gone(
  plan: RunPlan,
  captureIn: (index: number, purpose: Capture['purpose'], look: number) => Partial<Capture>,
  adjust = true,
): RunState {
  // prettier-ignore
  const events: RunEvent[] = [];
  const add = (body: RunEventBody) => {
    const seq = events.length + 1;
    const at = new Date(NOW + seq * 1000).toISOString();
    events.push({ seq, device: 'a', counter: seq, at, by: 'Operator A', body });
    return replay(events);
  };
  let state = add({ type: 'started', plan });
  const looks = new Map<string, number>();
  for (let n = 0; state.current && n < 60; n++) {
    const { id: stepId, kind, pointIndex, purpose } = state.current;
    if (kind === 'settle') {
      const key = `${pointIndex}`;
      looks.set(key, (looks.get(key) ?? 0) + 1);
      const capture = { pointIndex: pointIndex!, purpose: purpose!, method: 'live', signal: 0, signalUncertainty: 0.2, temperatureC: 25, settledSeconds: 60, t90: 20, trace: [], ...captureIn(pointIndex!, purpose!, looks.get(key)!) } as Capture; // prettier-ignore
      state = add({ type: 'captured', stepId, capture, traceSeconds: null });
    } else if (kind === 'decide') {
      const action = adjust ? 'adjust' : judge(state)!.action;
      state = add({ type: 'decided', action, because: 'so it was' });
    } else if (kind === 'adjust') {
      const { coefficients } = judge(state)!.calibration;
      state = add({ type: 'adjusted', coefficients, how: 'written' });
    } else state = add({ type: 'step-done', stepId, traceSeconds: null });
  }
  return add({ type: 'closed' });
}
/** A probe 9 mV off with 95 %, each settling of a cup a little elsewhere. */
const worn =
  (apart: number) =>
  (index: number, _: Capture['purpose'], look: number): Partial<Capture> => ({
    signal: (index === 0 ? -9 : 159) + (look - 1.5) * apart,
  });
const statedOf = (state: RunState) => judge(state)!.working;

describe('what reaches the ±', () => {
  it('few settlings: 3 mV apart in each of two cups is one degree of freedom each, and k is no longer 2', () => {
    const close = statedOf(gone(ph(), worn(0.1), false));
    const apart = statedOf(gone(ph({ limits: { ...familyOf('ph').limits } }), worn(0.7), false));
    expect(close.coverageFactor).toBeLessThan(2.06);
    expect(apart.coverageFactor!).toBeGreaterThanOrEqual(close.coverageFactor!);
    // JCGM 100:2008, G.2b by hand: both settlings alone, 1 mV in u = 1.5/58 pH and nothing else, give ν = 2 and k = 4.53.
    const wide = gone(ph(), worn(3), false);
    const points = pointsOf(wide, 1);
    expect(points.map((p) => p.repeatability)).toEqual([
      { uncertainty: 1.5, degreesOfFreedom: 1 },
      { uncertainty: 1.5, degreesOfFreedom: 1 },
    ]);
    const plan = ph();
    const fit = calibrationOf(plan, points);
    if (!fit.ok) throw new Error(fit.message);
    const said = errorAtWork(plan, fit, fit.coefficients, points);
    expect(said.coverageFactor).toBeGreaterThan(2.3);
    expect(expandedOf(said)).toBeCloseTo(said.coverageFactor! * said.uncertainty, 12);
  });

  it('the display: steps of 0.1 pH are 0.1/√12 = 0.029 pH in every cup, typed or not', () => {
    const fine = statedOf(gone(ph({ resolution: 0.1 }), worn(0), false)).uncertainty;
    const coarse = statedOf(gone(ph({ resolution: 5.916 }), worn(0), false)).uncertainty;
    // At 5.8 the two cups count with 0.6 and 0.4.
    expect(Math.sqrt(coarse ** 2 - fine ** 2)).toBeCloseTo((0.1 / Math.sqrt(12)) * Math.hypot(0.6, 0.4), 2.3);
  });

  it('the age of an opened bottle: by the day to which it is good it adds its own ± as half width', () => {
    // ±0.02 (k = 2) as a rectangle: 0.02/√3
    expect(ageUncertainty(buffer('technical-7.00'), 90, 90)).toBeCloseTo(0.02 / Math.sqrt(3), 9);
    expect(ageUncertainty(buffer('technical-7.00'), -3, 90)).toBe(0);
    expect(ageUncertainty(buffer('technical-7.00'), 90, Infinity)).toBe(0);
    const { openedDays } = familyOf('ph').standards;
    const openedOn = new Date(NOW - openedDays * 86_400_000).toISOString().slice(0, 10);
    const [old] = pointsFor(fitted, order('technical-7.00', 'old'), [{ ...lot('old'), openedOn }], CATALOGUE, NOW);
    expect(old!.lot.ageUncertainty).toBeCloseTo(0.02 / Math.sqrt(3), 4);
    const points = ph().points.map((p) => ({ ...p, lot: { ...p.lot, ageUncertainty: 0.02 / Math.sqrt(3) } }));
    const [fresh, aged] = [ph(), ph({ points })].map((plan) => statedOf(gone(plan, worn(0), false)).uncertainty) as [number, number]; // prettier-ignore
    expect(Math.sqrt(aged ** 2 - fresh ** 2)).toBeCloseTo((0.02 / Math.sqrt(3)) * Math.hypot(0.6, 0.4), 3);
  });

  it('a certificate’s ± counts with or without a table of its own', () => {
    const said = (over: Partial<Lot>) => pointsFor(fitted, order('technical-7.00', 'a'), [{ ...lot('a'), ...over }], CATALOGUE, NOW)[0]!.standard; // prettier-ignore
    expect(said({}).uncertainty).toBe(buffer('technical-7.00').uncertainty);
    expect(said({ plusMinus: 0.05 }).uncertainty).toBe(0.025);
    expect(said({ plusMinus: 0.05, table: [[20, 7.02], [25, 7]] }).uncertainty).toBe(0.025); // prettier-ignore
    expect(said({ plusMinus: null, table: [[20, 7.02], [25, 7]] }).uncertainty).toBe(0.01); // prettier-ignore
    expect(() => certified(buffer('technical-7.00'), 0)).toThrow(/±/);
  });

  it('a table of 7.00, 7.00, 7.00 is printed to a hundredth, though 7.00 is 7: ±0.02, not ±0.51', () => {
    const flat = withOwnTable(buffer('technical-7.00'), [[20, 7], [25, 7], [30, 7]], { plusMinus: 0.02, k: 2 }); // prettier-ignore
    expect(flat.tableStep).toBe(0.01);
    const plan = ph({}, [flat, buffer('technical-4.01')]);
    const usual = statedOf(gone(ph(), worn(0), false));
    expect(expandedOf(statedOf(gone(plan, worn(0), false))) / expandedOf(usual)).toBeCloseTo(1, 1);
    // The usual table of this bottle is calculated and has no step: its label prints at least as finely as its ±.
    const salt = conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' });
    expect(withOwnTable(salt, [[20, 76], [25, 84]], { plusMinus: 0.5, k: 2 }).tableStep).toBe(0.5); // prettier-ignore
    expect(withOwnTable(salt, [[20, 75.9], [25, 84]], { plusMinus: 0.5, k: 2 }).tableStep).toBe(0.1); // prettier-ignore
  });

  it('a zero has an own table and a ±: clean water is not empty', () => {
    const blank = still('nitrate', 'blank', 'blank', 'mg/L NO3-N', 0);
    expect(blank.uncertainty).toBeGreaterThan(0);
    const own = withOwnTable(blank, [[15, 0.02], [25, 0.03]], { plusMinus: 0.02, k: 2 }); // prettier-ignore
    expect(valueAt(own, 25)).toBe(0.03);
    expect(() => withOwnTable(blank, [[15, 5], [25, 5]], { plusMinus: 0.02, k: 2 })).toThrow(/right bottle/); // prettier-ignore
    for (const zero of CATALOGUE.filter((s) => s.nominal === 0)) expect(zero.uncertainty, zero.id).toBeGreaterThan(0);
  });

  it('a thermometer that stood in the cups and compensates at work mostly cancels: salinity ±0.11, not ±0.45', () => {
    const kcl = conductivityBottle({ label: 53_065, labelC: 25, salt: 'seawater', plusMinusPercent: 0.5 });
    const plan = { ...planOnPaper({ family: 'salinity', loopName: 'S', workingValue: 35, workingC: 25, tolerance: 0.5 }, [kcl]), expected: { zero: 0, zeroSd: 0.1, sensitivity: 1, sensitivitySd: 0 } }; // prettier-ignore
    const point = { standard: kcl, lotId: '', temperatureC: 25, signal: 53_065, signalUncertainty: 5 };
    const stated = (byLoopThermometer: boolean) => {
      const points = [{ ...point, byLoopThermometer, pointIndex: 0, disagreement: null, t90: null, firstOff: null }];
      const fit = calibrationOf(plan, points);
      if (!fit.ok) throw new Error(fit.message);
      return errorAtWork(plan, fit, fit.coefficients, points).uncertainty;
    };
    // 2.17 %/°C of 35 for 0.2 °C (S per κ is 1.08, κ per °C 2.0 %), twice, and the bottle's 0.25 % of 35, and 0.02 of composition.
    const by = 0.0217 * 0.2 * 35;
    expect(stated(false)).toBeCloseTo(Math.hypot(by, by, 0.0027 * 35, 0.02), 1.5);
    expect(stated(true)).toBeCloseTo(Math.hypot(0.0027 * 35, 0.02), 1.7);
  });
});

describe('as left', () => {
  it('is what the read-back measured, not what the fit says of itself', () => {
    // 1.2 mV off after the adjustment: at a slope of 95 % 0.0214 pH.
    const lines = (index: number, purpose: Capture['purpose']) => ({
      signal: (index === 0 ? -9 : 159) + (purpose === 'read-back' ? 1.2 : 0),
      signalUncertainty: 0.2,
    });
    const made = outcomeOf(gone(ph(), lines))!;
    expect(made.asFound.error).not.toBeCloseTo(0, 2);
    expect(made.readBack!.signalOff).toBeCloseTo(1.2, 9);
    expect(made.asLeft.error).toBeCloseTo(-1.2 / ((159 + 9) / 2.99), 3);
    // U of the difference: two captures of 0.2 mV and two steps of 0.1 mV; En = 1.2 / U.
    const u = Math.hypot(0.2, 0.2, (0.1 * Math.SQRT2) / Math.sqrt(12));
    expect(Math.abs(made.readBack!.en)).toBeCloseTo(1.2 / (2 * u), 2);
    const agrees = outcomeOf(gone(ph(), (i) => ({ signal: i === 0 ? -9 : 159, signalUncertainty: 0.2 })))!;
    expect(agrees.asLeft.error).toBeCloseTo(0, 9);
    expect(Math.abs(agrees.readBack!.en)).toBeLessThan(1e-6);
  });

  it('of a run that left it alone is what was found: the bias stays known', () => {
    const made = outcomeOf(gone(ph({ tolerance: 1 }), worn(0), false))!;
    expect(made.action).toBe('leave');
    expect(made.asLeft.error).toBeCloseTo(made.asFound.error, 9);
    expect(made.readBack).toBeUndefined();
  });
});

describe('one function makes the rows', () => {
  it.each([
    ['ph', {}, 5.8, 25, [buffer('technical-7.00'), buffer('technical-4.01')], [-9, 159]],
    ['conductivity', {}, 1800, 29, [AIR, CONDUCTIVITY_STANDARDS[0]!], [2, 1350]],
    ['resistivity', {}, 1, 12, [conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' })], [7900]],
    ['orp', {}, 320, 25, [REDOX_STANDARDS[0]!], [240]],
  ] as const)(
    '%s: a moment after its run the cone is as wide as the bench said',
    (family, settings, value, temperatureC, standards, signals) => {
      const loop = { ...fitted.loop, family, settings, workingValue: value, workingC: temperatureC };
      const place: Fitted = { ...fitted, loop };
      // What the run holds is what the history, here nothing but the family's prior, says of it.
      const before = { finished: [], services: [], fleet: NO_FLEET } as unknown as Parameters<typeof coneOf>[1];
      const expected = coneOf(place, before, NOW).expectedAt(NOW);
      const plan = { ...planOnPaper({ family, settings, loopName: '', workingValue: value, workingC: temperatureC, tolerance: 1 }, standards), expected }; // prettier-ignore
      const state = gone({ ...plan, limits: { ...plan.limits, t90Seconds: 1000 } }, (i) => ({ signal: signals[i]!, signalUncertainty: Math.abs(signals[i]!) / 2000 })); // prettier-ignore
      const outcome = outcomeOf(state)!;
      const past = { finished: [{ endedAt: new Date(NOW).toISOString(), outcome }], services: [], fleet: NO_FLEET } as unknown as Parameters<typeof coneOf>[1]; // prettier-ignore
      const cone = coneOf(place, past, NOW + 86_400_000);
      const { sd } = cone.errorAt!(NOW + 1000);
      // What the history lends, or takes away, is all that may differ.
      expect(sd / outcome.asLeft.uncertainty).toBeGreaterThan(0.93);
      expect(sd / outcome.asLeft.uncertainty).toBeLessThan(1.1);
      expect(cone.marks[0]!.sd / outcome.asFound.uncertainty).toBeGreaterThan(0.93);
    },
  );
});

const lot = (id: string): Lot => ({ id: id, label: id, table: null, plusMinus: null, expiresOn: null, openedOn: null, usedUpOn: null }); // prettier-ignore
const order = (standardId: string, lotId: string) => ({ procedure: 'calibrate' as const, points: [{ standardId, lotId: lotId as LotId }], boxes: [] }); // prettier-ignore
const fitted: Fitted = {
  siteName: 'Here',
  timeZone: 'UTC',
  loop: {
    id: 'l',
    siteId: 's',
    name: 'pH',
    place: '',
    family: 'ph',
    settings: {},
    takes: {},
    workingValue: 5.8,
    workingC: 25,
    tolerance: 0.1,
    intervalDays: 30,
    dueBy: 'calendar',
    controls: '',
    controlAction: '',
    referenceGroup: '',
    body: '',
    water: '',
    surroundings: [],
    limits: {},
  },
  sensor: { id: 'x', name: 'x', model: '', fittedMs: null },
  channel: {
    id: 'c',
    resolution: 0.1,
    reads: { unit: 'mV', kind: 'wired', compensatedBy: '', outputs: [], coefficientsIn: 'instrument' },
  },
};

it('points that do not lie on one line: the upper 1 % of χ², scipy 1.17.1, chi2.ppf(0.99, n)', () => {
  const plan = ph();
  const points = pointsOf(gone(plan, worn(0), false), 1);
  const fit = calibrationOf(plan, points);
  if (!fit.ok) throw new Error(fit.message);
  [6.6349, 9.2103, 11.3449, 13.2767].forEach((bound, i) => {
    const said = (chiSquare: number) => sensorDoubts(plan, { ...fit, chiSquare, degreesOfFreedom: i + 1 }, points).some((r) => r.code === 'points-inconsistent'); // prettier-ignore
    expect([said(bound + 0.01), said(bound - 0.01)], `${i + 1}`).toEqual([true, false]);
  });
});

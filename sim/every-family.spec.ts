import {
  AIR,
  CATALOGUE,
  apply,
  CONDUCTIVITY_STANDARDS,
  conductivityBottle,
  familyOf,
  grabSample,
  ionStandard,
  judge,
  modelOf,
  outcomeOf,
  REDOX_STANDARDS,
  replay,
  settleIn,
  STATISTICAL,
  responseIn,
  type RunEvent,
  type RunEventBody,
  type RunPlan,
  type RunState,
  type Sample,
  type Settings,
  type Standard,
} from '@frustum/core';
import { describe, expect, it } from 'vitest';
import { FAULTS, faulty, type Switched } from './faults/index.ts';
import { houseBodies } from './fleets/bodies.ts';
import { Body, type Shown } from './physics/body.ts';
import { DEEDS } from './physics/deeds.ts';
import { airKPa, fullKPa, oxygenAtRest } from './physics/oxygen.ts';
import { shiftOf } from './physics/reference.ts';
import type { BodyTruth } from './physics/truth.ts';

interface Case {
  readonly settings: Settings;
  readonly body: string;
  /** standards in the order in which they are captured, and where the body is put for each */
  readonly points: readonly (readonly [Standard, string])[];
  readonly working: number;
  readonly tolerance: number;
  readonly signal: (s: Shown) => number;
  /** what the run should find, from the hidden truth */
  readonly truth: (t: BodyTruth) => { zero?: number; sensitivity?: number };
  readonly near: { zero?: number; sensitivity?: number };
}

const KCL = (id: string) => CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!;
const conductance = (s: Shown) => s.conductance;
const oxygenAt = (id: string) => CATALOGUE.find((s) => s.id === id)!;
const SEA = conductivityBottle({ label: 53_065, labelC: 25, salt: 'seawater', plusMinusPercent: 0.5 });

const CASES: Record<string, Case> = {
  conductivity: {
    settings: { cellConstant: 1, alpha: 2 },
    body: 'line-2-ec',
    points: [
      [AIR, 'air'],
      [KCL('kcl-0.01'), 'cup-1413 µS/cm'],
    ],
    working: 1850,
    tolerance: 60,
    signal: conductance,
    truth: (t) => ({ sensitivity: t.cell!.gain }),
    near: { sensitivity: 0.006 },
  },
  salinity: {
    settings: { cellConstant: 1 },
    body: 'display-salinity',
    points: [[SEA, 'cup-S 35']],
    working: 22,
    tolerance: 0.5,
    signal: conductance,
    truth: (t) => ({ sensitivity: t.cell!.gain }),
    near: { sensitivity: 0.006 },
  },
  resistivity: {
    settings: { cellConstant: 0.01, alpha: 2 },
    body: 'make-up',
    points: [[conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' }), 'cup-84 µS/cm']],
    working: 1.1,
    tolerance: 0.1,
    signal: conductance,
    truth: (t) => ({ sensitivity: t.cell!.gain }),
    near: { sensitivity: 0.01 },
  },
  orp: {
    settings: { reference: 'silver-chloride-3.5', scale: 'own' },
    body: 'display-orp',
    points: [[REDOX_STANDARDS[0]!, 'cup-redox 430']],
    working: 220,
    tolerance: 15,
    signal: (s) => s.electrodes['orp']!,
    truth: (t) => ({ zero: t.electrodes['orp']!.zeroMv - shiftOf(t.reference, 25) }),
    // The core's table of the whole cell and the stand-in's reference by activity lie some millivolts apart.
    near: { zero: 7 },
  },
  ion: {
    settings: { ion: 'chloride' },
    body: 'remineralised-chloride',
    points: [
      [ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }), 'cup-chloride 319'],
      [ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.00136 }), 'cup-chloride 46'],
    ],
    working: 32,
    tolerance: 5,
    signal: (s) => s.electrodes['chloride']!,
    truth: (t) => ({ sensitivity: t.electrodes['chloride']!.slope }),
    near: { sensitivity: 0.02 },
  },
  temperature: {
    settings: {},
    body: 'line-2-ec',
    points: [[grabSample('temperature', 21, '°C', 0.1, 21), 'process']],
    working: 21,
    tolerance: 0.5,
    signal: (s) => s.temperatureC,
    truth: () => ({ zero: 0 }),
    near: { zero: 0.9 },
  },
  nitrate: {
    settings: {},
    body: 'remineralised-nitrate',
    points: [[grabSample('nitrate', 5, 'mg/L NO3-N', 0.1, 17.5), 'cup-nitrate 5 as N']],
    working: 1.7,
    tolerance: 0.5,
    signal: (s) => s.nitrateN,
    // What dirt and stray light add counts as gain here: one point knows no zero.
    truth: (t) => ({ sensitivity: t.optics!.gain + (0.05 + 0.48 + 0.1) / 5 }),
    near: { sensitivity: 0.03 },
  },
  'oxygen-optical': {
    settings: { writtenIn: 'mg/L O2', inAir: 3, perC: 1, pressureKPa: airKPa(0), salinity: 22 },
    body: 'display-oxygen',
    points: [
      [oxygenAt('zero-oxygen'), 'cup-zero oxygen'],
      [oxygenAt('moist-air'), 'cup-water-saturated air'],
    ],
    working: 6.7,
    tolerance: 0.3,
    signal: (s) => s.oxygen,
    // Between nothing and full air at 24 °C, over what the data sheet promises for it: 2 for 20.56 kPa at 25 °C.
    truth: ({ oxygen }) => {
      const at = (kPa: number) => oxygenAtRest(oxygen!, kPa, 24);
      return {
        zero: at(0) - 1,
        sensitivity: (at(fullKPa(24, airKPa(0))) - at(0)) / ((0.99 * 2 * fullKPa(24, airKPa(0))) / 20.56),
      };
    },
    near: { zero: 0.004, sensitivity: 0.008 },
  },
  'oxygen-membrane': {
    settings: { writtenIn: '% sat', inAir: 60, perC: 3.5, pressureKPa: airKPa(0) },
    body: 'line-1-oxygen',
    points: [[oxygenAt('moist-air'), 'cup-water-saturated air']],
    working: 88,
    tolerance: 5,
    signal: (s) => s.oxygen,
    // All current in full air at 24 °C goes into the slope: 60 nA for 20.56 kPa at 25 °C, 3.5 %/°C.
    truth: ({ oxygen }) => {
      const kPa = fullKPa(24, airKPa(0));
      return { sensitivity: oxygenAtRest(oxygen!, kPa, 24) / ((60 * Math.exp(-0.035) * kPa) / 20.56) };
    },
    near: { sensitivity: 0.008 },
  },
  chlorine: {
    settings: { nominalSlope: 100 },
    body: 'rinse-chlorine',
    points: [[grabSample('chlorine', 0.5, 'mg/L', 0.02, 19), 'process']],
    working: 0.5,
    tolerance: 0.1,
    signal: (s) => s.chlorine,
    // 92 nA at pH 7 and 25 °C; at pH 7.2 and 19 °C by the share of acid and 3 %/°C.
    truth: () => ({ sensitivity: (0.92 * (1 + 10 ** (7 - 7.54)) * 1.03 ** -6) / (1 + 10 ** (7.2 - 7.54)) + 1.5 / 50 }),
    near: { sensitivity: 0.03 },
  },
};

/** A run of a family on its simulated body, the hands and the settling included; nothing of it knows the truth. */
class RunOnBody {
  state: RunState;
  readonly truth: BodyTruth;
  private readonly changes: Switched[];
  private readonly body: Body;
  private seconds = 0;
  private readonly of: Case;
  private readonly events: RunEvent[] = [];

  constructor(family: string, of: Case, faults: readonly string[] = []) {
    this.of = of;
    const made = houseBodies(4870).find((b) => b.key === of.body)!;
    this.truth = made.truth;
    this.changes = faults.map((name) => ({ fault: FAULTS.find((f) => f.name === name)!, severity: 1, from: 0 }));
    this.body = new Body({ ...made, truth: (s) => faulty(made.truth, this.changes, s), atMs: 0, roomC: 24 });
    const model = modelOf(familyOf(family), of.settings);
    const step = Math.max(
      familyOf(family).step.absolute,
      familyOf(family).step.relative * Math.abs(model.ideal(of.working, { temperatureC: 20 })),
    );
    const { zero, sensitivity } = familyOf(family).prior(step);
    const plan: RunPlan = {
      family,
      settings: of.settings,
      loopName: `${family} loop`,
      sensorName: `${family} sensor`,
      points: of.points.map(([standard]) => ({ standard, lot: { id: standard.id, label: 'T-1' } })),
      school: STATISTICAL,
      controls: 'dosing',
      workingValue: of.working,
      workingC: 20,
      tolerance: of.tolerance,
      limits: familyOf(family).limits,
      inForce: { zero: 0, sensitivity: 1 },
      inForceKnown: true,
      expected: {
        zero: zero.value,
        zeroSd: zero.sd,
        sensitivity: sensitivity.value,
        sensitivitySd: sensitivity.sd,
      },
      channelKind: 'wired',
      resolution: step / 20,
    };
    this.state = replay([this.event({ type: 'started', plan })]);
  }

  /** Goes through the sheet up to the verdict. */
  toVerdict(): this {
    while (this.state.current && this.state.current.kind !== 'decide') {
      const step = this.state.current;
      if (step.kind === 'settle') this.captures();
      else {
        if (step.kind === 'place') this.places(step.pointIndex!);
        if (step.id.endsWith('.clean')) this.changes.push({ fault: DEEDS.clean, severity: 1, from: this.seconds });
        this.add({ type: 'step-done', stepId: step.id, traceSeconds: null });
      }
    }
    return this;
  }

  add(body: RunEventBody): RunState {
    this.state = apply(this.state, this.event(body));
    return this.state;
  }

  private event(body: RunEventBody): RunEvent {
    const seq = this.events.length + 1;
    const at = new Date(Date.UTC(2026, 10, 23, 9, 0, seq)).toISOString();
    const event = { seq, device: 'sim-device', counter: seq, at, by: 'Operator A', body };
    this.events.push(event);
    return event;
  }

  private places(pointIndex: number): void {
    const [, place] = this.of.points[pointIndex]!;
    if (place !== 'process') {
      this.body.moveTo('rinse');
      this.wait(8);
      this.body.blot();
      this.body.moveTo(place);
      if (place === 'air') this.body.blot();
    }
    this.wait(4);
    this.body.tap();
  }

  /** Waits until it is steady, as the bench does: looks every five seconds, half an hour at most. */
  private captures(): void {
    const step = this.state.current!;
    const { standard } = this.state.plan.points[step.pointIndex!]!;
    if (step.purpose === 'repeat') this.body.tap();
    const samples: Sample[] = [];
    let before: Parameters<typeof settleIn>[5];
    for (let look = 0; look < 360; look++) {
      for (let i = 0; i < 5; i++) {
        this.wait(1);
        const shown = this.body.shown();
        samples.push({ t: this.seconds, signal: this.of.signal(shown), temperatureC: shown.temperatureC });
      }
      const last = samples.at(-1)!;
      const response = responseIn(this.state.plan, standard);
      const settling = settleIn(response, samples, this.state.plan.school, response.step / 20, undefined, before);
      before = settling.checked;
      if (settling.state !== 'ready') continue;
      this.add({
        type: 'captured',
        stepId: step.id,
        traceSeconds: last.t,
        capture: {
          pointIndex: step.pointIndex!,
          purpose: step.purpose!,
          method: 'live',
          signal: settling.level,
          signalUncertainty: settling.levelUncertainty,
          temperatureC: settling.temperatureC,
          settledSeconds: settling.seconds,
          t90: step.purpose === 'as-found' ? settling.t90 : null,
          trace: [],
        },
      });
      return;
    }
    throw new Error(`never steady at ${step.id}`);
  }

  private wait(seconds: number): void {
    for (let i = 0; i < 4 * seconds; i++) this.body.step(0.25, 0);
    this.seconds += seconds;
  }
}

describe('a run of every family on a simulated sensor, the simulator being the judge (seed 4870)', () => {
  for (const [family, of] of Object.entries(CASES)) {
    it(`${family}: finds what is hidden, says it in the family’s own unit, and ends with an outcome`, () => {
      const run = new RunOnBody(family, of).toVerdict();
      const verdict = judge(run.state)!;
      const truth = of.truth(run.truth);
      const found = verdict.calibration.coefficients;
      if (truth.zero !== undefined) expect(Math.abs(found.zero - truth.zero)).toBeLessThan(of.near.zero!);
      if (truth.sensitivity !== undefined)
        expect(Math.abs(found.sensitivity - truth.sensitivity)).toBeLessThan(of.near.sensitivity!);
      expect(verdict.sentence).toContain(modelOf(familyOf(family), of.settings).valueUnit);
      expect(['leave', 'adjust', 'clean-and-retest']).toContain(verdict.action);
      run.add({ type: 'decided', action: 'leave', because: 'only a look' });
      run.add({ type: 'step-done', stepId: 'return', traceSeconds: null });
      const outcome = outcomeOf(run.add({ type: 'closed' }))!;
      expect(outcome.asFound).toEqual(outcome.asLeft);
      // A sound sensor is within what the run itself says of its working value, three standard uncertainties.
      expect(outcome.asFound.uncertainty).toBeGreaterThan(0);
    });
  }

  it('a scaled cell reads low: cleaned and measured again it is right, and the first look stays as it was found', () => {
    const run = new RunOnBody('conductivity', CASES['conductivity']!, ['scaled cell']).toVerdict();
    const first = judge(run.state)!;
    expect(first.action).toBe('clean-and-retest');
    expect(first.sentence).toMatch(/gain 6\d\.\d % is below 85\.0 %/);
    run.add({ type: 'decided', action: 'clean-and-retest', because: '' });
    run.toVerdict();
    expect(judge(run.state)!.calibration.coefficients.sensitivity).toBeCloseTo(1.004, 1);
    expect(['leave', 'adjust']).toContain(judge(run.state)!.action);
  });

  it('a worn chloride tip is doubted by its slope, the gap in percent of the ideal one', () => {
    const run = new RunOnBody('ion', CASES['ion']!, ['worn ion tip']).toVerdict();
    expect(judge(run.state)!.sentence).toMatch(/slope 6\d\.\d % is below 81\.0 %/);
  });

  it('a wet cell “in air” creeps and is never called steady: no false zero can be captured', () => {
    const run = new RunOnBody('conductivity', CASES['conductivity']!, ['wet cell']);
    expect(() => run.toVerdict()).toThrow('never steady at p1.settle.0');
    expect(run.state.captures).toEqual([]);
  });
});

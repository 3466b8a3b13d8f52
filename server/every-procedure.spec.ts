import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CATALOGUE, spanOf } from '@frustum/core';
import { foundInBuffers } from '../sim/physics/ageing.ts';
import { shiftOf } from '../sim/physics/reference.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { AtTheBench, type BenchLoop } from './testing/at-the-bench.ts';

/**
 * Every procedure on the house's bodies (seed 4870), over the API, from its gates to the next due date. The simulator is
 * the judge: what a run finds is held against the hidden truth, which the driver never looks at.
 */
let subject: TestApplication;
beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());

const bench = (loop: BenchLoop, faults: readonly (readonly [string, number])[] = []) =>
  new AtTheBench(subject, loop, faults).setsUp();
const points = (...ids: string[]) => ({ points: ids.map((standardId) => ({ standardId })) });
const found = (b: AtTheBench) => b.verdict.calibration.coefficients;

const PH: Omit<BenchLoop, 'name'> = {
  family: 'ph',
  workingValue: 8.1,
  workingC: 25,
  tolerance: 0.2,
  body: 'display-main',
  quantity: 'mV',
  read: (r) => r.electrodes['ph']!,
};
const EC: Omit<BenchLoop, 'name'> = {
  family: 'conductivity',
  settings: { cellConstant: 1, alpha: 2 },
  workingValue: 1850,
  workingC: 21,
  tolerance: 80,
  body: 'line-2-ec',
  quantity: 'µS',
  read: (r) => r.conductance,
};
const ION: Omit<BenchLoop, 'name'> = {
  family: 'ion',
  settings: { ion: 'chloride' },
  workingValue: 31,
  workingC: 18.5,
  tolerance: 5,
  body: 'remineralised-chloride',
  quantity: 'mV',
  read: (r) => r.electrodes['chloride']!,
};

describe('pH', () => {
  // Two points from above, and five in any order: what lies between is the fit's, in core/families/families.spec.ts.
  const SETS = [
    ['technical-4.01', 'technical-7.00'],
    ['technical-7.00', 'technical-10.01', 'technical-4.01', 'technical-9.00', 'primary-phosphate'],
  ];
  for (const set of SETS)
    it(`${set.join(', ')}: zero and slope of the hidden truth, then the next due date`, async () => {
      const b = await bench({ ...PH, name: `pH ${set.join().replaceAll('technical-', '')}` });
      expect(await b.starts(points(...set))).toBeNull();
      await b.toDecision();
      const truth = foundInBuffers(b.truth, 'ph');
      expect(Math.abs(found(b).zero - truth.zeroMv)).toBeLessThan(1.2);
      expect(Math.abs(found(b).sensitivity - truth.slope)).toBeLessThan(0.008);
      expect(b.verdict.action).toBe('adjust');
      await (await b.decides('adjust')).toDecision();
      expect(b.state.status).toBe('closed');
      const { row, runs } = await b.page();
      expect(runs[0]!.outcome).toMatchObject({ kind: 'calibration', action: 'adjust' });
      expect(Math.abs(runs[0]!.outcome!.readBackShown! - 4.0) < 0.03 || set.at(-1) !== 'technical-4.01').toBe(true);
      expect(row.margin.state).toBe('inside');
      expect(await b.daysToDue()).toBe(30);
    });

  it('one point sets the zero alone; the slope stays what the history says', async () => {
    const b = await bench({ ...PH, name: 'pH one point' });
    await b.starts(points('technical-7.00'));
    await b.toDecision();
    expect(b.verdict.calibration.whole.free).toBe('zero');
    expect(Math.abs(found(b).zero - foundInBuffers(b.truth, 'ph').zeroMv)).toBeLessThan(1.2);
    expect(found(b).sensitivity).toBe(1);
  });

  it('a health check in 7: not sound at first, goes on and is adjusted; the next check is sound and ends', async () => {
    const b = await bench({ ...PH, name: 'pH health check', tolerance: 0.1 }, [['electrolyte diluted', 0.25]]);
    const order = { procedure: 'check-first', ...points('technical-7.00', 'technical-4.01') };
    await b.starts(order);
    await b.toDecision();
    expect(b.state.steps.map((s) => s.key)).not.toContain('decide');
    expect(b.verdict.action).toBe('go-on');
    await (await b.decides('go-on')).toDecision();
    expect(b.state.captures.map((c) => c.pointIndex)).toEqual([0, 0, 1, 1]);
    await (await b.decides('adjust', 'as found')).toDecision();
    expect(b.state.status).toBe('closed');
    await b.starts(order);
    await b.toDecision();
    expect(b.verdict.sentence).toMatch(/^Sound: /);
    await (await b.decides('leave')).toDecision();
    expect((await b.page()).runs[0]!.outcome).toMatchObject({ kind: 'verification', action: 'leave' });
  });

  it('a channel that shows pH only: relative zero and gain, whatever it believes', async () => {
    // R·T/F·ln10 by its own constants, not by the core.
    const k = (t: number) => (Math.LN10 * 8.314462618 * (t + 273.15)) / 96.48533212;
    const b = await bench({
      ...PH,
      name: 'pH shown only',
      family: 'ph-shown',
      quantity: 'pH',
      read: (r) => 7 - (r.electrodes['ph']! - 3) / (0.99 * k(r.temperatureC)),
    });
    await b.starts(points('technical-7.00', 'technical-4.01'));
    await b.toDecision();
    const truth = foundInBuffers(b.truth, 'ph');
    expect(Math.abs(found(b).sensitivity - truth.slope / 0.99)).toBeLessThan(0.008);
    expect(Math.abs(found(b).zero + (truth.zeroMv - 3) / (0.99 * 58.6))).toBeLessThan(0.03);
    await (await b.decides('adjust')).toDecision();
    expect(await b.daysToDue()).toBe(30);
  });

  it('raw counts: what a count is worth is found in the buffers', async () => {
    const b = await bench({
      ...PH,
      name: 'pH raw counts',
      family: 'ph-counts',
      settings: { atSeven: 20_000, aPh: -600 },
      quantity: 'counts',
      read: (r) => Math.round(20_150 + 10.2 * r.electrodes['ph']!),
    });
    await b.starts(points('technical-7.00', 'technical-10.01'));
    await b.toDecision();
    const { zeroMv, slope } = foundInBuffers(b.truth, 'ph');
    expect(Math.abs(found(b).sensitivity - (10.2 * 59.159 * slope) / 600)).toBeLessThan(0.012);
    expect(Math.abs(found(b).zero - (150 + 10.2 * zeroMv))).toBeLessThan(15);
    await (await b.decides('adjust')).toDecision();
    expect(await b.daysToDue()).toBe(30);
  });

  it('verify only: reports an error beyond tolerance and adjusts nothing', async () => {
    const b = await bench({ ...PH, name: 'pH verify', tolerance: 0.1 }, [['electrolyte diluted', 0.6]]);
    await b.starts({ procedure: 'verify', ...points('technical-7.00', 'technical-10.01') });
    await b.toDecision();
    expect(['leave', 'clean-and-retest']).toContain(b.verdict.action);
    await (await b.decides('leave', 'verification')).toDecision();
    const { runs } = await b.page();
    expect(runs[0]!.outcome).toMatchObject({ kind: 'verification', inForceAfter: { zero: 0, sensitivity: 1 } });
  });

  it('a fixed dwell and a count of unmoved digits come near the forecast’s figures', async () => {
    const zeros: number[] = [];
    for (const [i, school] of ['fixed-time', 'hand-count'].entries()) {
      const b = await bench({ ...PH, name: `pH school ${i}` });
      await b.starts({
        ...points('technical-7.00', 'technical-4.01'),
        school,
        fixedSeconds: school === 'fixed-time' ? 120 : 15,
      });
      await b.toDecision();
      expect(b.state.steps.some((s) => s.key === 'repeat')).toBe(school === 'hand-count');
      zeros.push(found(b).zero - foundInBuffers(b.truth, 'ph').zeroMv);
    }
    for (const off of zeros) expect(Math.abs(off)).toBeLessThan(2);
  });
});

describe('ORP and temperature', () => {
  it('ORP: the input shorted, one standard, one offset', async () => {
    const b = await bench({
      name: 'Display ORP',
      family: 'orp',
      settings: { reference: 'silver-chloride-3.5', scale: 'own' },
      workingValue: 220,
      workingC: 25,
      tolerance: 20,
      body: 'display-orp',
      quantity: 'mV',
      read: (r) => r.electrodes['orp']!,
    });
    await b.starts(points('zero-plug', 'ferrocyanide'));
    await b.toDecision();
    expect(Math.abs(b.state.captures[0]!.signal)).toBeLessThan(0.3);
    // The core's table of the whole cell and the stand-in's reference by activity lie some millivolts apart.
    const truth = b.truth.electrodes['orp']!.zeroMv - shiftOf(b.truth.reference, 25);
    expect(Math.abs(found(b).zero - truth)).toBeLessThan(7);
    expect(found(b).sensitivity).toBe(1);
    await (await b.decides('adjust', 'first run')).toDecision();
    expect(await b.daysToDue()).toBe(30);
  });

  it('temperature: a thermometer that stands 1 °C high, by two others; entered in whole °F, the rest is known', async () => {
    const b = await bench(
      {
        name: 'Display temperature',
        family: 'temperature',
        workingValue: 25.5,
        workingC: 25.5,
        tolerance: 0.6,
        body: 'display-salinity',
        quantity: '°C',
        read: (r) => r.temperatureC,
      },
      [['thermometer off', 0.2]],
    );
    await b.starts({ procedure: 'thermometers' });
    const bath = () => b.stand.body.surroundingsC();
    await b.toDecision({
      entry: () => ({
        kind: 'thermometers',
        a: { temperatureC: bath() + 0.05, plusMinusC: 0.2 },
        b: { temperatureC: bath() - 0.05, plusMinusC: 0.2 },
      }),
    });
    expect(Math.abs(found(b).zero - 1)).toBeLessThan(0.15);
    expect(b.verdict.action).toBe('adjust');
    await b.decides('adjust');
    // −1.8 °F wanted, −2 entered: what the display takes is what is in force from now on.
    const entered = { zero: 2 / 1.8, sensitivity: 1 };
    await b.sends({ type: 'adjusted', coefficients: entered, how: 'entered-by-hand' }, b.state.seq);
    await b.toDecision();
    const { runs } = await b.page();
    // The bath moves on: a later look at it is no measure of what was left.
    const { asLeft, readBack } = runs[0]!.outcome!;
    expect(readBack).toBeUndefined();
    expect(asLeft.error).toBeCloseTo(found(b).zero - 2 / 1.8, 3);
    expect(await b.daysToDue()).toBe(30);
  });
});

describe('cells', () => {
  const CASES: readonly (readonly [string, readonly string[], Partial<BenchLoop>, number])[] = [
    ['air and one point', ['air', 'kcl-0.01'], {}, 0.006],
    ['one point without zero', ['kcl-0.01'], {}, 0.006],
    ['two points', ['kcl-0.01', 'kcl-0.1'], {}, 0.008],
    [
      'salinity',
      ['seawater-35'],
      {
        family: 'salinity',
        settings: { cellConstant: 1 },
        workingValue: 22,
        workingC: 25.5,
        tolerance: 1,
        body: 'display-salinity',
      },
      0.006,
    ],
    [
      'resistivity',
      ['kcl-84'],
      {
        family: 'resistivity',
        settings: { cellConstant: 0.01, alpha: 2 },
        workingValue: 1.1,
        workingC: 18,
        tolerance: 0.15,
        body: 'make-up',
        more: { surroundings: ['high-purity', 'pressurised'] },
      },
      0.012,
    ],
  ];
  for (const [name, set, part, near] of CASES)
    it(`${name}: the gain of the hidden truth, then the next due date`, async () => {
      const b = await bench({ ...EC, ...part, name });
      await b.starts(points(...set));
      if (name === 'resistivity') expect(b.state.steps.slice(0, 2).map((s) => s.key)).toEqual(['flow', 'isolate']);
      await b.toDecision();
      expect(Math.abs(found(b).sensitivity - b.truth.cell!.gain)).toBeLessThan(near);
      await (await b.decides('adjust', 'first run')).toDecision();
      expect((await b.page()).row.margin.state).not.toBe('outside');
      expect(await b.daysToDue()).toBe(30);
    });

  it('clean and test: a scaled cell reads low, is cleaned and reads right; it is never adjusted', async () => {
    const b = await bench({ ...EC, name: 'EC clean and test', body: 'line-1-ec' }, [['scaled cell', 0.5]]);
    await b.starts({ procedure: 'clean-and-test', ...points('kcl-0.02') });
    await b.toDecision();
    expect(b.verdict.action).toBe('clean-and-retest');
    const before = found(b).sensitivity;
    await (await b.decides('clean-and-retest')).toDecision();
    expect(found(b).sensitivity).toBeGreaterThan(before + 0.1);
    expect(Math.abs(found(b).sensitivity - b.truth.cell!.gain)).toBeLessThan(0.02);
    await (await b.decides('leave', 'factory cell')).toDecision();
    expect((await b.page()).runs[0]!.outcome).toMatchObject({ cleaned: true, inForceAfter: { sensitivity: 1 } });
  });
});

describe('ions', () => {
  it('two points: slope of the tip in percent of the ideal one', async () => {
    const b = await bench({ ...ION, name: 'chloride, two' });
    await b.starts(points('chloride-46', 'chloride-319'));
    await b.toDecision();
    expect(Math.abs(found(b).sensitivity - b.truth.electrodes['chloride']!.slope)).toBeLessThan(0.02);
    await (await b.decides('adjust', 'first run')).toDecision();
    expect(await b.daysToDue()).toBe(30);
  });

  it('three and four points: what holds at the water’s temperature is taken, near the same slope', async () => {
    for (const count of [3, 4]) {
      const b = await bench({ ...ION, name: `chloride, ${count}` });
      const set = ['chloride-46', 'chloride-319', 'chloride-319', 'chloride-46'].slice(0, count);
      await b.starts(points(...set));
      await b.toDecision();
      expect(b.state.captures.filter((c) => c.purpose === 'as-found')).toHaveLength(count);
      expect(Math.abs(found(b).sensitivity - b.truth.electrodes['chloride']!.slope)).toBeLessThan(0.025);
    }
  });

  it('a pair that was captured at two temperatures is void', async () => {
    const b = await bench({ ...ION, name: 'chloride, cold pair' });
    await b.starts({ ...points('chloride-46', 'chloride-319'), school: 'fixed-time', fixedSeconds: 5 });
    while (b.step.kind !== 'decide') {
      const { step } = b;
      if (step.kind !== 'settle') {
        await b.sends({ type: 'step-done', stepId: step.id, traceSeconds: null });
        continue;
      }
      const i = step.pointIndex!;
      const capture = {
        pointIndex: i,
        purpose: step.purpose!,
        method: 'typed' as const,
        signal: [100, 53][i]!,
        signalUncertainty: 0.2,
        temperatureC: [21, 22][i]!,
        settledSeconds: null,
        t90: null,
        trace: [],
      };
      await b.sends({ type: 'captured', stepId: step.id, traceSeconds: null, capture });
    }
    expect(b.verdict.sentence).toMatch(/^Investigate it: the pair is void: .* are 1\.0 °C apart; the limit is 0\.5/);
  });

  it('pH on the same reference comes first: the gate stands open until somebody says why', async () => {
    const group = { more: { referenceGroup: 'one reference' } };
    await bench({ ...PH, ...group, name: 'pH of the group' });
    const b = await bench({ ...ION, ...group, name: 'chloride of the group' });
    const refused = await b.starts(points('chloride-46', 'chloride-319'));
    expect(refused).toMatchObject({ status: 409, code: 'gate-open' });
    expect(refused!.detail).toContain('pH of the group was never calibrated.');
    const overrides = [{ id: 'prerequisite:pH of the group', because: 'its buffers are on the way' }];
    expect(await b.starts({ ...points('chloride-46', 'chloride-319'), overrides })).toBeNull();
    expect(b.state.plan.gates).toEqual([
      {
        id: 'prerequisite:pH of the group',
        text: 'pH of the group was never calibrated.',
        because: 'its buffers are on the way',
      },
    ]);
  });
});

describe('optical nitrate, chlorine, grab samples', () => {
  it('nitrate: one point in 5 mg/L as N; a wiggle starts it over', async () => {
    const b = await bench({
      name: 'optical nitrate',
      family: 'nitrate',
      workingValue: 1.7,
      workingC: 18.5,
      tolerance: 0.5,
      body: 'remineralised-nitrate',
      quantity: 'mg/L NO3-N',
      read: (r) => r.nitrateN,
      more: { surroundings: ['pressurised'] },
    });
    await b.starts(points('nitrate-n-5'));
    expect(b.step.key).toBe('isolate');
    await b.toDecision();
    // What dirt and stray light add counts as gain here: one point knows no zero.
    expect(Math.abs(found(b).sensitivity - (b.truth.optics!.gain + (0.05 + 0.48 + 0.1) / 5))).toBeLessThan(0.04);
    await (await b.decides('adjust', 'first run')).toDecision();
    expect(await b.daysToDue()).toBe(30);
  });

  it('chlorine by a photometer’s sample: the slope as it is in this water', async () => {
    const b = await bench({
      name: 'chlorine',
      family: 'chlorine',
      settings: { nominalSlope: 100 },
      workingValue: 0.5,
      workingC: 19,
      tolerance: 0.1,
      body: 'rinse-chlorine',
      quantity: 'nA',
      read: (r) => r.chlorine,
    });
    await b.starts({ procedure: 'sample' });
    await b.toDecision({
      entry: () => ({ kind: 'sample', value: 0.5, unit: 'mg/L', plusMinus: 0.03, temperatureC: 19.5 }),
    });
    // 92 nA at pH 7 and 25 °C; at pH 7.2 and 19 °C by the share of acid and 3 %/°C.
    const truth = (0.92 * (1 + 10 ** (7 - 7.54)) * 1.03 ** -6) / (1 + 10 ** (7.2 - 7.54)) + 1.5 / 50;
    expect(Math.abs(found(b).sensitivity - truth)).toBeLessThan(0.03);
    expect(b.state.steps.map((s) => s.key)).not.toContain('take-out');
    await (await b.decides('adjust')).toDecision();
    expect((await b.page()).runs[0]!.outcome!).toMatchObject({ kind: 'grab-sample', action: 'adjust' });
    expect(await b.daysToDue()).toBe(30);
  });

  it('a pH sample entered later is paired with the reading that was kept at its moment', async () => {
    const b = await bench({ ...PH, name: 'pH sample' });
    const minute = '2026-11-25T08:12:00.000Z';
    const channelId = (await b.page()).row.channelId;
    // 8.05 pH by a probe of zero −2 and 97 %: −2 − 0.97 · 59.2 · 1.05.
    const signal = -62.3;
    await subject.context.store.keepMinutes([
      {
        channelId,
        minute,
        count: 60,
        mean: signal,
        low: signal - 0.4,
        high: signal + 0.4,
        temperatureC: 25.2,
        onBench: false,
      },
    ]);
    await b.starts({ procedure: 'sample' });
    const benched = () => subject.context.store.readBenchedSince('2026-11-01T00:00:00.000Z');
    expect((await benched()).get(b.sensorId)).toBe('now');
    const request = (await import('supertest')).default;
    const at = await request(subject.app).get(`/api/sensors/${b.sensorId}/reading?at=2026-11-25T08:14:30Z`);
    expect(at.body).toMatchObject({ at: minute, signal });
    const none = await request(subject.app).get(`/api/sensors/${b.sensorId}/reading?at=2026-11-25T06:00:00Z`);
    expect([none.status, (none.body as { code: string }).code]).toEqual([404, 'no-reading-then']);
    const { signalUncertainty, temperatureC } = at.body as { signalUncertainty: number; temperatureC: number };
    const capture = {
      pointIndex: 0,
      purpose: 'as-found' as const,
      method: 'reading' as const,
      signal,
      signalUncertainty,
      temperatureC,
      settledSeconds: null,
      t90: null,
      trace: [],
    };
    await b.sends({ type: 'captured', stepId: b.step.id, traceSeconds: null, capture });
    await b.toDecision({
      entry: () => ({ kind: 'sample', value: 8.05, unit: 'pH', plusMinus: 0.04, temperatureC: 24 }),
    });
    expect(b.verdict.calibration.whole.free).toBe('zero');
    await (await b.decides('leave', 'close enough')).toDecision();
    expect((await b.page()).runs[0]!.outcome!.kind).toBe('grab-sample');
    expect((await b.page()).row.cone.marks[0]!.kind).toBe('grab-sample');
    // It hung in its water all the time: of those that ended, only the others came back from the bench.
    expect((await benched()).get(b.sensorId)).toBeUndefined();
    expect([...(await benched()).values()].filter((at) => /^2026-/.test(at)).length).toBeGreaterThan(0);
  });
});

describe('two in one cup, and boxes', () => {
  it('main and backup probe in the same cups: each finds its own truth', async () => {
    const offs: number[] = [];
    for (const body of ['display-main', 'display-backup']) {
      const b = await bench({ ...PH, name: `pH pair ${body}`, body });
      await b.starts(points('technical-7.00', 'technical-10.01'));
      await b.toDecision();
      offs.push(Math.abs(found(b).zero - foundInBuffers(b.truth, 'ph').zeroMv));
    }
    for (const off of offs) expect(off).toBeLessThan(1.5);
  });

  it('boxes: as found and as left in % of span; the sensor’s history does not hear of it', async () => {
    const b = await bench({ ...PH, name: 'pH boxes', more: { controls: 'CO2 dosing' } });
    const boxes = [
      { label: '−177.5 mV', applied: -177.5, use: 'adjust' },
      { label: '0 mV', applied: 0, use: 'verify' },
      { label: '177.5 mV', applied: 177.5, use: 'adjust' },
    ];
    expect(await b.starts({ procedure: 'electrical', boxes, limitPercent: 0.5 })).toBeNull();
    expect(b.state.steps.slice(0, 2).map((s) => s.key)).toEqual(['hold', 'take-out']);
    // The upper box is set 3 mV low, as a transmitter that shows too little would have it.
    await b.toDecision({ boxes: [-177.5, 0, 174.5] });
    expect(b.verdict.action).toBe('adjust');
    const worst = spanOf(b.state).worstFound!;
    expect(Math.abs(Math.abs(worst) - 3 / 3.55)).toBeLessThan(0.05);
    await b.decides('adjust');
    await b.toDecision({ boxes: [-177.5, 0, 177.5] });
    expect(b.state.status).toBe('closed');
    expect(Math.abs(spanOf(b.state).worstLeft!)).toBeLessThan(0.1);
    const { row, runs } = await b.page();
    expect(runs[0]!.outcome!.kind).toBe('electrical');
    expect(row.margin.state).toBe('not known');
    expect(row.due.atMs).toBeNull();
  });
});

describe('every standard of the catalogue', () => {
  it('has a name of its own within its family', () => {
    const names = CATALOGUE.map((s) => `${s.family} ${s.name}`);
    expect(new Set(names).size).toBe(names.length);
  });
});

import { thermistorOf } from '../electrical/thermistor.ts';
import { describe, expect, it } from 'vitest';
import { CATALOGUE, serves, usualSets } from '../families/catalogue.ts';
import { Paper, planFor, point, standard } from '../testing/a-run.ts';
import type { PlannedPoint, RunPlan } from './events.ts';
import { boxStandard, spanOf, usualBoxes } from './electrical.ts';
import { outcomeOf } from './outcome.ts';
import { stepsOf } from './procedure.ts';
import { builtIn, mayAdjust } from '../sensor/procedures.ts';
import { judge } from './verdict.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';
import { proceduresFor } from '../families/procedures.ts';

const PH = [point('technical-7.00'), point('technical-4.01')];
const keysOf = (plan: RunPlan, decisions: Parameters<typeof stepsOf>[1] = []) =>
  stepsOf(plan, decisions).map((s) => s.key);

describe('a step sheet goes by family, state and surroundings', () => {
  it('every family has procedures, and every usual set is of standards that serve it', () => {
    for (const id of [
      'temperature',
      'conductivity',
      'salinity',
      'resistivity',
      'ph',
      'ph-shown',
      'ph-counts',
      'orp',
      'ion',
      'chlorine',
      'nitrate',
    ]) {
      expect(proceduresFor(id).length, id).toBeGreaterThan(1);
      for (const set of usualSets(id))
        for (const s of set) expect(serves(id, {}, standard(s)), `${id}: ${s}`).toBe(true);
    }
    expect(serves('ph', {}, standard('kcl-0.01'))).toBe(false);
    expect(serves('ion', { ion: 'nitrate' }, standard('chloride-46'))).toBe(false);
  });

  it('the second pair of an ion tip stands as warm as the water, and its step says so; the first does not', () => {
    const four = usualSets('ion').find((set) => set.length === 4)!;
    const plan = planFor(
      'ion',
      'calibrate',
      four.map((id) => point(id)),
      { workingC: 18.5 },
    );
    const places = stepsOf(plan, []).filter((s) => s.kind === 'place');
    expect(places.map((s) => s.text.startsWith('This one stands as warm as the water, 18.5 °C'))).toEqual([
      false,
      false,
      true,
      true,
    ]);
  });

  it('a new ion tip hydrates for a day, a dry pH glass an hour, one in use not at all', () => {
    const ion = stepsOf(
      planFor('ion', 'calibrate', [point('chloride-46'), point('chloride-319')], { sensorState: 'new' }),
      [],
    );
    expect(ion[0]).toMatchObject({ key: 'soak', kind: 'wait', seconds: 86_400, skippable: true });
    const dry = stepsOf(planFor('ph', 'calibrate', PH, { sensorState: 'stored-dry' }), []);
    expect(dry[0]).toMatchObject({ key: 'soak', seconds: 3600 });
    expect(dry[0]!.caution).toContain('Never in distilled');
    expect(keysOf(planFor('ph', 'calibrate', PH, { sensorState: 'in-use' }))[0]).toBe('take-out');
    expect(keysOf(planFor('conductivity', 'calibrate', [point('kcl-0.01')], { sensorState: 'new' }))[0]).toBe(
      'take-out',
    );
  });

  it('hold first, then what the line asks for; stocked water is minded at cleaning and on the way back', () => {
    const plan = planFor('resistivity', 'calibrate', [point('kcl-84')], {
      controls: 'valve',
      surroundings: ['high-purity', 'pressurised', 'stocked'],
    });
    const steps = stepsOf(plan, ['clean-and-retest']);
    expect(steps.slice(0, 4).map((s) => s.key)).toEqual(['hold', 'flow', 'isolate', 'take-out']);
    expect(steps.find((s) => s.key === 'flow')!.text).toContain('not calibrated away');
    expect(steps.find((s) => s.key === 'clean')!.caution).toContain('never reach the animals');
    expect(steps.at(-1)!.caution).toContain('Stocked water');
    expect(keysOf(planFor('ph', 'calibrate', PH))).not.toContain('hold');
  });

  it('a first look that a wiggle clears away is not taken, and the verdict says how far away it was', () => {
    const run = new Paper(planFor('ph', 'calibrate', PH)).does().does().does(5.3);
    // 5.3 mV are 6.91, −3.5 mV are 7.06: 8.8 mV of 58.57 a pH at 22 °C are 0.15.
    run.does(-3.5).does(-3.5).does().does(172).does(172);
    const verdict = judge(run.state)!;
    const first = verdict.reasons.find((r) => r.code === 'first-look-away')!;
    expect(first.text).toBe('The first look in 7.00 was 0.15 pH away; the last two count.');
    expect(first.value).toBeCloseTo(8.8 / 58.57, 3);
    expect(verdict.calibration.coefficients.zero).toBeLessThan(0);
    // Two looks that agree have nothing to tell.
    const calm = new Paper(planFor('ph', 'calibrate', PH)).does().does().does(-3.5).does(-3.4).does();
    expect(judge(calm.does(172).does(172).state)!.reasons.map((r) => r.code)).not.toContain('first-look-away');
  });

  it('each family’s sheet carries its own cautions, and what must come first', () => {
    const sheet = (family: string, points: readonly PlannedPoint[], more: Partial<RunPlan> = {}) =>
      stepsOf(planFor(family, 'calibrate', points, more), []).map((s) => `${s.title} ${s.text} ${s.caution ?? ''}`);
    const says = (steps: readonly string[], words: string) => steps.filter((s) => s.includes(words)).length;
    const ion = sheet('ion', [point('chloride-46'), point('chloride-319')]);
    expect(says(ion, 'pH, ORP and conductivity on the same reference come first')).toBe(1);
    expect(says(ion, 'both the ion tip and the reference')).toBe(2);
    const orp = sheet('orp', [point('zero-plug', 'input'), point('ferrocyanide')], { surroundings: ['stocked'] });
    expect(says(orp, 'live panel')).toBe(1);
    expect(says(orp, 'never reach the animals')).toBe(1);
    const nitrate = sheet('nitrate', [point('nitrate-n-5')], { surroundings: ['pressurised'] });
    expect(says(nitrate, 'Isolate, depressurise, drain')).toBe(1);
    expect(says(nitrate, 'Do not look into ultraviolet light')).toBe(1);
    const pure = sheet('resistivity', [point('kcl-84')], { surroundings: ['high-purity'] });
    expect(says(pure, 'Flow, earth, no air')).toBe(1);
  });

  it('one to five points in any order, each settled twice; nothing is wiggled in air', () => {
    const five = ['technical-10.01', 'technical-7.00', 'technical-4.01', 'technical-9.00', 'phthalate'];
    const known = five.filter((id) => CATALOGUE.some((s) => s.id === id));
    const steps = stepsOf(
      planFor(
        'ph',
        'calibrate',
        known.map((id) => point(id)),
      ),
      [],
    );
    expect(steps.filter((s) => s.key === 'repeat')).toHaveLength(known.length);
    expect(steps.find((s) => s.key === 'place')!.title).toContain('10.01');
    const air = stepsOf(planFor('conductivity', 'calibrate', [point('air'), point('kcl-0.01')]), []);
    expect(air.filter((s) => s.key === 'repeat').map((s) => s.pointIndex)).toEqual([1]);
  });

  it('the zero plug is looked at once, and is no point of the line', () => {
    const run = new Paper(
      planFor('orp', 'calibrate', [point('zero-plug', 'input'), point('ferrocyanide')], {
        settings: { reference: 'silver-chloride-saturated' },
        workingValue: 300,
        tolerance: 20,
        inForce: { zero: 0, sensitivity: 1 },
      }),
    );
    expect(run.state.steps.map((s) => s.key)).toEqual([
      'take-out',
      'place',
      'settle',
      'place',
      'settle',
      'repeat',
      'decide',
      'return',
    ]);
    run.does().does().does(0.4).does().does(236).does(236);
    expect(judge(run.state)!.calibration.whole.free).toBe('zero');
    expect(judge(run.state)!.action).toBe('leave');
    const off = new Paper(run.state.plan).does().does().does(6.5).does().does(236).does(236);
    expect(judge(off.state)!.sentence).toMatch(
      /^Investigate it: with its input shorted the instrument shows \+6\.5 mV; the limit is ±3/,
    );
  });
});

describe('procedures that are no calibration', () => {
  it('a health check in 7 ends sound, or goes on to the others', () => {
    const plan = planFor('ph', 'check-first', PH);
    expect(keysOf(plan)).toEqual(['take-out', 'place', 'settle', 'repeat', 'check', 'return']);
    const sound = new Paper(plan).does().does().does(-0.5).does(-0.5);
    expect(judge(sound.state)!.sentence).toMatch(/^Sound: 0\.0/);
    sound.decides('leave').does();
    expect(outcomeOf(sound.add({ type: 'closed' }).state)).toMatchObject({ kind: 'verification', action: 'leave' });

    const off = new Paper(plan).does().does().does(-19).does(-19);
    expect(judge(off.state)).toMatchObject({ action: 'go-on' });
    expect(judge(off.state)!.sentence).toMatch(/^Calibrate it: /);
    off.decides('go-on');
    expect(off.state.current).toMatchObject({ key: 'place', pointIndex: 1 });
    off.does().does(155).does(155);
    expect(judge(off.state)).toMatchObject({ action: 'adjust' });
  });

  it('verify only and clean-and-test never end in an adjustment, and say what comes next', () => {
    expect([mayAdjust('verify'), mayAdjust('clean-and-test'), mayAdjust('check-first')]).toEqual([false, false, true]);
    const run = new Paper(planFor('ph', 'verify', PH)).does().does().does(-19).does(-19).does().does(152).does(152);
    expect(judge(run.state)).toMatchObject({ action: 'leave' });
    expect(judge(run.state)!.sentence).toMatch(/^Out of tolerance, left as it is: .* Calibrate it next\.$/);
  });

  it('a sample is held against the reading of its moment; one that cooled, or in another kind of unit, is refused', () => {
    const plan = planFor(
      'chlorine',
      'sample',
      [
        {
          standard: {
            ...standard('chlorine-free'),
            nominal: 0.5,
            table: [
              [0, 0.5],
              [50, 0.5],
            ],
            uncertainty: 0.1,
          },
          lot: { id: '', label: '' },
        },
      ],
      {
        settings: { nominalSlope: 100 },
        workingValue: 0.5,
        tolerance: 0.1,
      },
    );
    const run = new Paper(plan).does(46, { method: 'reading' });
    const enter = (unit: 'mg/L' | 'mV', temperatureC: number) =>
      run.add({
        type: 'entered',
        stepId: 'p1.enter.0',
        traceSeconds: null,
        entry: { kind: 'sample', value: 0.52, unit, plusMinus: 0.04, temperatureC },
      });
    expect(() => enter('mg/L', 45)).toThrow(/measured at 45 °C, the water has 22 °C; more than 10/);
    expect(() => enter('mV', 21)).toThrow(/a value in mV cannot be held against it/);
    enter('mg/L', 21);
    expect(run.state.entered['1.0']).toMatchObject({ nominal: 0.52, uncertainty: 0.02 });
    const verdict = judge(run.state)!;
    // Shown 0.46 for 0.52: −0.06 at the sample, beyond half the tolerance of 0.1.
    expect(verdict.working.error).toBeCloseTo((0.46 / 0.52) * 0.5 - 0.5, 2);
    expect(verdict.action).toBe('adjust');
    run.decides('adjust');
    expect(run.state.current!.key).toBe('adjust');
  });

  it('“close enough” takes both uncertainties: with a coarse kit the same difference is left', () => {
    const plan = planFor('chlorine', 'sample', [{ standard: standard('chlorine-free'), lot: { id: '', label: '' } }], {
      settings: { nominalSlope: 100 },
      workingValue: 0.5,
      tolerance: 0.1,
    });
    const run = new Paper(plan).does(46);
    run.add({
      type: 'entered',
      stepId: 'p1.enter.0',
      traceSeconds: null,
      entry: { kind: 'sample', value: 0.52, unit: 'mg/L', plusMinus: 0.2, temperatureC: 21 },
    });
    expect(judge(run.state)!.sentence).toContain('but no more than its ±');
  });

  it('two thermometers that disagree decide nothing; when they agree, what they say is the standard', () => {
    const plan = planFor(
      'temperature',
      'thermometers',
      [{ standard: standard('chlorine-free'), lot: { id: '', label: '' } }],
      {
        workingValue: 22,
        tolerance: 0.5,
      },
    );
    const run = new Paper(plan).does();
    const enter = (b: number) =>
      run.add({
        type: 'entered',
        stepId: 'p1.enter.0',
        traceSeconds: null,
        entry: {
          kind: 'thermometers',
          a: { temperatureC: 22, plusMinusC: 0.1 },
          b: { temperatureC: b, plusMinusC: 0.1 },
        },
      });
    expect(() => enter(22.6)).toThrow(/0\.60 °C apart; their accuracy allows 0\.14/);
    enter(22.1).does(22.75, { temperatureC: 22.75 });
    const verdict = judge(run.state)!;
    expect(verdict.action).toBe('adjust');
    expect(verdict.working.error).toBeCloseTo(0.7, 6);
  });

  it.each([
    ['mV', {}, ['−150 mV', '0 mV', '150 mV']],
    // A tenth inside the ends of the channel's own range.
    ['mV', { low: -414, high: 414 }, ['−331 mV', '0 mV', '331 mV']],
    ['pH', {}, ['177.5 mV', '0 mV', '−177.5 mV']],
    // Ohm's law with the cell constant: 1/cm over 100 µS/cm is 10 kΩ, 10/cm ten times that.
    ['µS/cm', { cellConstant: 1 }, ['10 kΩ', '1 kΩ', '200 Ω']],
    ['mS/cm', { cellConstant: 10 }, ['100 kΩ', '10 kΩ', '2 kΩ']],
    // 18 MΩ·cm between plates of 0.01/cm is 180 kΩ.
    ['MΩ·cm', { cellConstant: 0.01 }, ['10 kΩ', '100 kΩ', '180 kΩ']],
    // Published table of IEC 60751: Pt100 has 101.95 Ω at 5 °C, 109.73 at 25, 123.24 at 60.
    ['°C', {}, ['1019.5 Ω, Pt1000', '1097.3 Ω, Pt1000', '1232.4 Ω, Pt1000']],
    ['°C', { element: 'Pt100' }, ['101.95 Ω, Pt100', '109.73 Ω, Pt100', '123.24 Ω, Pt100']],
    // Rows of a common 10 kΩ table, from memory: 25 395 Ω at 5 °C, 4367 at 45 °C; Steinhart-Hart through 0, 25 and 50 °C.
    [
      '°C',
      { thermistor: thermistorOf({ element: 'thermistor' }) },
      ['25390 Ω, thermistor', '10000 Ω, thermistor', '4369 Ω, thermistor'],
    ],
    ['°C', { element: 'another' }, ['5 °C by its table', '25 °C by its table', '60 °C by its table']],
    ['mg/L NO3-N', {}, []],
    ['counts', {}, []],
  ])('boxes for a channel in %s %j say what one dials', (unit, of, labels) => {
    expect(usualBoxes(unit, of).map((b) => b.label)).toEqual(labels);
  });

  it('boxes: as found and as left in % of span; what is only looked at cannot be adjusted away', () => {
    const boxes = usualBoxes('mV').map((b) => ({
      standard: boxStandard(b, 'mV'),
      lot: { id: '', label: '' },
      ...(b.use === 'verify' ? { role: 'verify' as const } : {}),
    }));
    const plan = planFor('electrical', 'electrical', boxes, {
      settings: { unit: 'mV' },
      tolerance: 0.5,
      workingValue: 0,
      controls: 'dosing',
    });
    const run = new Paper(plan).does().does();
    expect(run.state.hold).not.toBeNull();
    run.does().does(-147).does().does(1.5).does().does(150);
    expect(judge(run.state)).toMatchObject({ action: 'adjust', sentence: 'Adjust it: +1.00 % of span, limit 0.5 %.' });
    run.decides('adjust');
    expect(run.state.current!.key).toBe('adjust');
    run.add({ type: 'adjusted', coefficients: { zero: 0, sensitivity: 1 }, how: 'entered-by-hand' });
    run.does().does(-150).does().does(0.2).does().does(150.1).does();
    const { rows, worstFound, worstLeft } = spanOf(run.state);
    expect(rows.map((r) => r.use)).toEqual(['adjust', 'verify', 'adjust']);
    expect([worstFound!, worstLeft!].map((x) => x.toFixed(3))).toEqual(['1.000', '0.067']);
    expect(outcomeOf(run.add({ type: 'closed' }).state)).toMatchObject({ kind: 'electrical', asFound: { error: 3 } });
    expect(run.state.hold!.releasedAt).not.toBeNull();
    // The worst box, −150 mV to ±0.15 (k = 2), on a display with steps of 0.1 mV.
    expect(outcomeOf(run.state)!.asFound.uncertainty).toBeCloseTo(
      Math.hypot(0.075, plan.resolution / Math.sqrt(12)),
      9,
    );
    // Of a transmitter that spans 828 mV the same 3 mV are 0.36 %, whatever the boxes cover.
    const wide = new Paper({ ...plan, span: 828 }).does().does().does().does(-147).does().does(1.5).does().does(150);
    expect(spanOf(wide.state).worstFound).toBeCloseTo((100 * 3) / 828, 6);
    expect(judge(wide.state)!.action).toBe('leave');

    const verifyOff = new Paper(plan).does().does().does().does(-150).does().does(2).does().does(150);
    expect(judge(verifyOff.state)!.action).toBe('investigate');
  });
});

describe('ways back, ways past, and words of one’s own', () => {
  it('a step that may be passed over keeps its reason, another refuses', () => {
    const run = new Paper(planFor('ph', 'calibrate', PH, { controls: 'acid dosing' }));
    run.add({ type: 'skipped', stepId: 'hold', because: 'pump unplugged', traceSeconds: null });
    expect(run.state.skipped).toEqual([
      { stepId: 'hold', title: 'Put acid dosing on hold', because: 'pump unplugged' },
    ]);
    expect(run.state.hold).toBeNull();
    expect(() => run.add({ type: 'skipped', stepId: 'take-out', because: 'no', traceSeconds: null })).toThrow(
      /cannot be passed over/,
    );
  });

  it('going back before an entry forgets what was entered, and keeps it in the record', () => {
    const plan = planFor(
      'temperature',
      'thermometers',
      [{ standard: standard('chlorine-free'), lot: { id: '', label: '' } }],
      { workingValue: 22, tolerance: 0.5 },
    );
    const run = new Paper(plan).does();
    const a = { temperatureC: 22, plusMinusC: 0.1 };
    run.add({ type: 'entered', stepId: 'p1.enter.0', traceSeconds: null, entry: { kind: 'thermometers', a, b: a } });
    run.add({ type: 'step-reopened', stepId: 'p1.enter.0', traceSeconds: null });
    expect(run.state.entered).toEqual({});
    expect(run.events.some((e) => e.body.type === 'entered')).toBe(true);
  });

  it('a team’s own words stand where the usual ones stood, its steps come in between, and cautions stay', () => {
    const plan = planFor('ph', 'calibrate', PH, {
      procedure: {
        ...builtIn('calibrate'),
        id: 'own',
        version: 3,
        words: { 'take-out': { title: 'Sump probe out' } },
        extra: [{ after: 'take-out', title: 'Photograph the glass', text: 'Both sides.' }],
      },
    });
    const steps = stepsOf(plan, []);
    expect(steps[0]).toMatchObject({ title: 'Sump probe out' });
    expect(steps[0]!.caution).toContain('mains');
    expect(steps[1]).toMatchObject({ key: 'own', title: 'Photograph the glass', skippable: true });
    expect(new Paper(plan).does().does().state.current!.key).toBe('place');
  });

  it('the zero plug is a standard that no family but ORP takes', () => {
    expect(serves('orp', {}, ZERO_PLUG)).toBe(true);
    expect(serves('ph', {}, ZERO_PLUG)).toBe(false);
  });
});

import { describe, expect, it } from 'vitest';
import { CATALOGUE, usualSets } from '../families/catalogue.ts';
import { FAMILIES, familyOf } from '../families/registry.ts';
import { proceduresFor } from '../families/procedures.ts';
import { typedCapture } from '../mistakes/typed-entry.ts';
import { builtIn } from '../sensor/procedures.ts';
import { scaleOf, scalesOf } from '../sensor/scale.ts';
import { modelOf, shownValue } from '../sensor/sensor.ts';
import { grabSample } from '../solutions/sample.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { planOnPaper } from './bench-plan.ts';
import type { Capture, RunEvent, RunEventBody, RunPlan } from './events.ts';
import { standardAt } from './measured.ts';
import { outcomeOf } from './outcome.ts';
import { familyOfPlan, writtenOfPlan } from './plan.ts';
import { replay } from './replay.ts';
import { judge } from './verdict.ts';
import { expectedIn } from '../sensor/sensor.ts';

/** Where each family works; what is fitted there is a tenth weak, and a little off. */
const WORKS: Readonly<Record<string, { value: number; at: number; settings?: RunPlan['settings'] }>> = {
  temperature: { value: 25, at: 25 },
  conductivity: { value: 1413, at: 24 },
  salinity: { value: 34, at: 25 },
  resistivity: { value: 10, at: 25 },
  ph: { value: 5.8, at: 24 },
  'ph-shown': { value: 5.8, at: 24 },
  'ph-counts': { value: 5.8, at: 24 },
  orp: { value: 420, at: 25 },
  ion: { value: 120, at: 25, settings: { ion: 'chloride' } },
  chlorine: { value: 0.5, at: 22 },
  nitrate: { value: 5, at: 20 },
  'oxygen-optical': { value: 8, at: 22 },
  'oxygen-membrane': { value: 8, at: 22 },
};
const NOW = Date.parse('2026-11-25T12:00:00Z');

function planIn(id: string, scale: string): RunPlan {
  const family = familyOf(id);
  const { value, at, settings = {} } = WORKS[id]!;
  const [procedure] = proceduresFor(id);
  const loop = { family: id, loopName: id, settings, workingValue: value, workingC: at, tolerance: Number(family.typed.tolerance), channelKind: 'hand' as const }; // prettier-ignore
  const set = (usualSets(id, settings)[0] ?? []).map((s) => CATALOGUE.find((c) => c.id === s)!);
  const { valueUnit } = modelOf(family, settings);
  const entered = procedure!.kind === 'sample' || procedure!.kind === 'thermometers';
  const standards = entered ? [grabSample(id, value, valueUnit, 1, at)] : set;
  return {
    ...planOnPaper(loop, standards),
    procedure: builtIn(procedure!.kind),
    expected: { zero: 0, zeroSd: 5 * family.step.absolute, sensitivity: 1, sensitivitySd: 0.1 },
    shownAs: { scale, step: null },
  };
}

/** Goes through a run to its end. What the sensor gives is typed in a scale, or comes over a wire. */
function gone(plan: RunPlan, scale: string | null) {
  const { family, model } = familyOfPlan(plan);
  const truth = {
    zero: family.id === 'ion' ? 190 : 2 * family.step.absolute,
    sensitivity: family.shown.sensitivity && !family.thermometer ? 0.93 : 1,
  };
  const events: RunEvent[] = [];
  const add = (body: RunEventBody) => {
    const seq = events.length + 1;
    events.push({
      seq,
      device: 'paper-device',
      counter: seq,
      at: new Date(NOW + seq * 1000).toISOString(),
      by: 'Operator A',
      body,
    });
    return replay(events);
  };
  let typedOnce = 0;
  let state = add({ type: 'started', plan });
  let sentence = '';
  const at = { temperatureC: plan.workingC };
  const signalIn = (pointIndex: number) => {
    const standard = standardAt(state, 1, pointIndex) ?? plan.points[pointIndex]!.standard;
    if (plan.points[pointIndex]!.role === 'input') return truth.zero;
    return model.origin + truth.zero + truth.sensitivity * model.ideal(expectedIn(model, { standard, ...at }), at);
  };
  while (state.current) {
    const step = state.current;
    const { id: stepId, kind, pointIndex, purpose } = step;
    if (kind === 'settle') {
      const signal = signalIn(pointIndex!);
      const inForce = purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce;
      const standard = standardAt(state, 1, pointIndex!) ?? plan.points[pointIndex!]!.standard;
      // What has no value in this scale, as salt in air, is typed as its signal.
      const shown =
        scale === null
          ? null
          : unlessRefused(() => scaleOf(model, scale).of(shownValue(model, signal, at, inForce), at));
      const wire: Omit<Capture, 'pointIndex' | 'purpose'> = { method: 'live', signal, signalUncertainty: 0, temperatureC: plan.workingC, settledSeconds: 60, t90: null, trace: [] }; // prettier-ignore
      let capture = wire;
      // A gravity in air has no digit that says anything.
      const inAir = family.id === 'salinity' && standard.nominal === 0;
      const isIn = shown !== null && !inAir && plan.points[pointIndex!]!.role !== 'input' && shown !== 0;
      if (scale !== null) {
        const [text, unit] = isIn ? [shown.toPrecision(9), scale] : [String(signal), model.signalUnit];
        if (isIn) typedOnce++;
        const temperature = family.thermometer ? '' : String(plan.workingC);
        const made = typedCapture(
          state,
          step,
          standard,
          { reading: text, unit, temperature, degrees: '°C' },
          CATALOGUE,
          true,
        );
        if (!('capture' in made)) throw new Error(`${family.id} in ${scale}: ${JSON.stringify(made)}`);
        expect(Math.abs(made.capture.signal - signal)).toBeLessThan(1e-5 * Math.max(1, Math.abs(signal)));
        capture = made.capture;
      }
      // The same ± for both: what is typed is as good as what a wire gives.
      const signalUncertainty = family.step.absolute / 4 + (family.step.relative * Math.abs(signal)) / 4;
      state = add({
        type: 'captured',
        stepId,
        traceSeconds: null,
        capture: { ...capture, signalUncertainty, pointIndex: pointIndex!, purpose: purpose! },
      });
    } else if (kind === 'enter') {
      const unit = scale ?? model.valueUnit;
      const own = plan.workingValue * (family.thermometer ? 1 : 1.04);
      const to = scaleOf(model, unit);
      const entry = family.thermometer
        ? ({
            kind: 'thermometers',
            a: { temperatureC: own, plusMinusC: 0.2 },
            b: { temperatureC: own + 0.1, plusMinusC: 0.2 },
          } as const)
        : ({
            kind: 'sample',
            value: to.of(own, at),
            unit,
            plusMinus: Math.abs(to.of(own * 1.01, at) - to.of(own * 0.99, at)),
            temperatureC: plan.workingC,
          } as const);
      state = add({ type: 'entered', stepId, traceSeconds: null, entry });
    } else if (kind === 'decide') {
      const verdict = judge(state)!;
      sentence ||= verdict.sentence;
      const action = verdict.action === 'adjust' || verdict.action === 'leave' ? verdict.action : 'investigate';
      state = add({ type: 'decided', action, because: 'as it comes' });
    } else if (kind === 'adjust') {
      state = add({ type: 'adjusted', coefficients: judge(state)!.calibration.coefficients, how: 'entered-by-hand' });
    } else state = add({ type: 'step-done', stepId, traceSeconds: null });
  }
  return { outcome: outcomeOf(add({ type: 'closed' }))!, sentence, typedOnce };
}

describe('a run that is typed in the unit of its display', () => {
  const cast = FAMILIES.flatMap((family) =>
    scalesOf(modelOf(family, WORKS[family.id]!.settings)).map(({ id }) => [family.id, id] as const),
  );

  it.each(cast)('%s in %s finds what the same run over a wire finds', (id, scale) => {
    const [typed, wired] = [gone(planIn(id, scale), scale), gone(planIn(id, ''), null)];
    expect(typed.typedOnce).toBeGreaterThan(0);
    const { coefficients, asFound, asLeft } = typed.outcome;
    const theirs = wired.outcome;
    const size = Math.abs(theirs.coefficients.zero) + 1;
    expect(Math.abs(coefficients.zero - theirs.coefficients.zero) / size).toBeLessThan(1e-4);
    expect(coefficients.sensitivity).toBeCloseTo(theirs.coefficients.sensitivity, 5);
    const tolerance = Number(familyOf(id).typed.tolerance);
    expect(Math.abs(asFound.error - theirs.asFound.error)).toBeLessThan(1e-3 * tolerance);
    expect(Math.abs(asLeft.error - theirs.asLeft.error)).toBeLessThan(1e-3 * tolerance);
    // What is said is in that unit, and in no other.
    const written = writtenOfPlan(planIn(id, scale));
    expect(typed.sentence).toContain(written.unit);
    expect(typed.sentence).toContain(Math.abs(written.off(asFound.error)).toFixed(written.digits));
  });
});

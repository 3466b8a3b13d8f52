import { CONDITIONS, type ConditionName, type Conditions, type Surrounded } from './conditions.ts';
import type { StandardPoint } from './standard-point.ts';
import { Refusal, requireFinite, requireWithin } from '../quantities/refusal.ts';
import { valueAt } from '../solutions/standard.ts';
import type { Family, Model, Settings } from './family.ts';
import type { Scale } from './scale.ts';
import { coefficientsAt, type Coefficients } from './coefficients.ts';

/** Responses smaller than this share of the ideal one carry no value. */
const MIN_SENSITIVITY = 1e-6;

/**
 * A family with its settings, the usual ones where none are given.
 *
 * @param settings conditions among them, by their names, hold wherever a caller knows the temperature only
 * @throws Refusal `setting-unknown`, `out-of-range`, `choice-unknown` with value, bound and way out
 * @example modelOf(familyOf('conductivity'), { cellConstant: 0.1 }).signalUnit // 'µS'
 * @example modelOf(familyOf('chlorine'), { senses: 'acid', ph: 8 }).ideal(1, { temperatureC: 25 }) // 33.04
 */
export function modelOf(family: Family, settings: Settings = {}): Model {
  const checked = checkedSettings(family, settings);
  const asked: readonly string[] = family.conditions(checked);
  for (const key of Object.keys(settings)) {
    if (key in family.settings || asked.includes(key)) continue;
    const names = [...Object.keys(family.settings), ...asked].join(', ') || 'none';
    throw new Refusal('setting-unknown', `${family.name} has no setting “${key}”; it has ${names}.`, { key });
  }
  const model = family.model(checked);
  return asked.length ? under(model, surroundedBy(family, settings)) : model;
}

function checkedSettings(family: Family, settings: Settings): Settings {
  const checked: Record<string, number | string> = {};
  for (const [key, field] of Object.entries(family.settings)) {
    const given = settings[key] ?? field.usual;
    if (field.kind === 'figure') {
      checked[key] = requireWithin(Number(given), field.low, field.high, field.name, field.unit, 'Check the set-up.');
    } else {
      if (!field.choices.some((c) => c.id === given)) {
        const list = field.choices.map((c) => c.name).join(', ');
        throw new Refusal('choice-unknown', `${field.name} “${given}” is not known. Pick one of ${list}.`, { key });
      }
      checked[key] = given;
    }
  }
  return checked;
}

/**
 * The conditions that a family asks for, as a loop's settings have them.
 *
 * @throws Refusal `out-of-range`, `choice-unknown`
 * @example surroundedBy(familyOf('chlorine'), { senses: 'acid', ph: 7.4 }) // { ph: 7.4 }
 */
export const surroundedBy = (family: Family, settings: Settings = {}): Surrounded =>
  Object.fromEntries(
    family.conditions(checkedSettings(family, settings)).map((key) => {
      const { name, unit, usual, low, high } = CONDITIONS[key];
      return [key, requireWithin(Number(settings[key] ?? usual), low, high, name, unit, 'Check the set-up.')];
    }),
  );

/**
 * Their names alone.
 *
 * @example conditionsFor(familyOf('chlorine'), {}).length // 0
 */
export const conditionsFor = (family: Family, settings: Settings = {}): readonly ConditionName[] =>
  family.conditions(checkedSettings(family, settings));

/** The model where these hold, unless it is asked under others. */
function under(model: Model, usual: Surrounded): Model {
  const whole = <At extends Conditions>(at: At): At => ({ ...usual, ...at });
  return {
    ...model,
    ...(model.writes && { writes: () => model.writes!().map((scale) => scaleUnder(scale, whole)) }),
    ideal: (value, at) => model.ideal(value, whole(at)),
    valueOf: (response, at) => model.valueOf(response, whole(at)),
    shows: (standard, value, at) => model.shows(standard, value, whole(at)),
    workingRows: (at) => model.workingRows(whole(at)),
  };
}

const scaleUnder = ({ id, of, own }: Scale, whole: (at: Conditions) => Conditions): Scale => ({
  id,
  of: (value, at) => of(value, whole(at)),
  own: (written, at) => own(written, whole(at)),
});

/**
 * Signal of a sensor in a liquid.
 *
 * @param value in the model's unit, inside its range
 * @throws Refusal `out-of-range`, `not-a-number`, `signal-beyond-sensor`
 * @example signalOf(modelOf(familyOf('ph')), 8.2, { temperatureC: 31 }, { zero: 0, sensitivity: 0.96 }) // -69.52
 */
export function signalOf(model: Model, value: number, at: Conditions, coefficients: Coefficients): number {
  const { low, high } = model.range;
  requireWithin(value, low, high, 'value', model.valueUnit, 'Check figure, unit and scale.');
  requireFinite(at.temperatureC, 'temperature');
  const { zero, sensitivity } = coefficientsAt(coefficients, at.temperatureC);
  const signal = model.origin + zero + sensitivity * model.ideal(value, at);
  return Number.isFinite(signal) ? signal : beyondSensor(value, model.valueUnit);
}

/** A figure that no sensor gives, however it was reached. */
function beyondSensor(value: number, unit: string): never {
  throw new Refusal(
    'signal-beyond-sensor',
    `${value} ${unit} is beyond what this sensor can give. Check unit, wiring and a dry or shorted input.`,
    { value },
  );
}

/**
 * Value that a channel shows for a signal, with the coefficients in force.
 *
 * @throws Refusal `sensitivity-zero`, and what the family refuses
 * @example shownValue(modelOf(familyOf('ph')), -69.523, { temperatureC: 31 }, { zero: 0, sensitivity: 0.96 }) // 8.2
 */
export function shownValue(model: Model, signal: number, at: Conditions, coefficients: Coefficients): number {
  requireFinite(signal, 'signal');
  requireFinite(at.temperatureC, 'temperature');
  const { zero, sensitivity } = coefficientsAt(coefficients, at.temperatureC);
  if (!(Math.abs(sensitivity) > MIN_SENSITIVITY)) {
    throw new Refusal('sensitivity-zero', `A sensitivity of ${100 * sensitivity} % shows nothing. Calibrate it anew.`, {
      sensitivity: Number.isFinite(sensitivity) ? sensitivity : null,
    });
  }
  const value = model.valueOf((signal - model.origin - zero) / sensitivity, at);
  return Number.isFinite(value) ? value : beyondSensor(signal, model.signalUnit);
}

/**
 * What the channel showed in a standard, against what it should have shown.
 *
 * @returns shown, expected, and shown − expected, in the model's unit
 * @example asFound(modelOf(familyOf('ph')), { standard: buffer('technical-7.00'), lotId: '', temperatureC: 25, signal: -8.4, signalUncertainty: 0.2 }, IDEAL_SENSOR).error // 0.142
 */
export function asFound(
  model: Model,
  point: StandardPoint,
  inForce: Coefficients,
): { readonly shown: number; readonly expected: number; readonly error: number } {
  const shown = shownValue(model, point.signal, point, inForce);
  const expected = expectedIn(model, point);
  return { shown, expected, error: shown - expected };
}

/**
 * What a right channel shows in the standard of a point.
 *
 * @param shift added to the standard's value, in its own unit
 */
export function expectedIn(model: Model, point: Conditions & Pick<StandardPoint, 'standard'>, shift = 0): number {
  return model.shows(point.standard, valueAt(point.standard, point.temperatureC) + shift, point);
}

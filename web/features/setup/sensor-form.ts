import { yupResolver } from '@hookform/resolvers/yup';
import type { FieldErrors, Resolver } from 'react-hook-form';
import {
  conditionsFor,
  familyOf,
  modelOf,
  Refusal,
  requireWithin,
  typedCondition,
  USUAL_HOLD_MIN,
  usualSets,
  type ConditionName,
  type ControlAction,
  type DueBy,
  type Family,
  type Settings,
} from '@frustum/core';
import { newSensorSchema, type NewSensor, type SetUpLoop } from '@frustum/contract';
import { unlessRefused, upper } from '../../format/in-family.ts';
import { typedNumber } from '../../format/typed.ts';
import { limitsOf, limitsTyped, pointsOf, surroundingsOf, surroundingsTyped, type PartsForm } from './loop-parts.ts';
import { USUAL_CHANNEL, type ChannelForm } from '../../wires/channel-form.ts';
import { channelOf, formOf } from '../../wires/wire-forms.ts';

/** The form's own shape: flat, all text; the schema makes a sensor of it. */
export interface SensorForm extends PartsForm {
  siteName: string;
  loopName: string;
  place: string;
  /** by field of the family, as typed; a field that is not there is as usual */
  settings: Record<string, string>;
  /** by condition, the loop that shows it; '' = what is typed */
  takes: Record<string, string>;
  workingValue: string;
  workingC: string;
  tolerance: string;
  intervalDays: string;
  dueBy: DueBy;
  controls: string;
  controlAction: ControlAction;
  holdMinutes: string;
  sensorName: string;
  serial: string;
  fittedOn: string;
  channel: ChannelForm;
}

export const USUAL_SENSOR: SensorForm = {
  siteName: '',
  loopName: '',
  place: '',
  family: 'ph',
  settings: {},
  takes: {},
  workingValue: '',
  workingC: '25',
  tolerance: '0.1',
  intervalDays: '30',
  dueBy: 'calendar',
  controls: '',
  controlAction: '',
  holdMinutes: String(USUAL_HOLD_MIN),
  referenceGroup: '',
  limits: limitsTyped({}),
  pressurised: false,
  stocked: false,
  highPurity: false,
  points: usualSets('ph')[0]!.join(' '),
  sensorName: '',
  serial: '',
  fittedOn: '',
  channel: USUAL_CHANNEL,
};

/** As another loop is set up, with a name of its own still to come. */
export function likeOf(loop: SetUpLoop): Partial<SensorForm> {
  const texts = (values: object) =>
    Object.fromEntries(Object.entries(values).map(([key, value]) => [key, String(value)]));
  const { family, settings, place, controls, controlAction, referenceGroup, dueBy, surroundings } = loop;
  return {
    family,
    settings: texts(settings),
    place,
    controls,
    controlAction,
    referenceGroup,
    dueBy,
    workingValue: String(loop.workingValue),
    workingC: String(loop.workingC),
    tolerance: String(loop.tolerance),
    intervalDays: String(loop.intervalDays),
    holdMinutes: String(loop.holdMinutes),
    points: loop.pointSet.join(' '),
    limits: limitsTyped(loop.limits),
    ...surroundingsTyped(surroundings),
    channel: formOf(loop.channel),
  };
}

/** Settings as the core takes them: only those of this family, figures as figures, conditions in their unit. */
export function settingsOf(family: Family, typed: Readonly<Record<string, string>>): Settings {
  const own = Object.entries(family.settings).map(([key, field]): [string, number | string] => {
    const text = typed[key];
    if (text === undefined || text.trim() === '') return [key, field.usual];
    return [key, field.kind === 'figure' ? (typedNumber(text) ?? field.usual) : text];
  });
  const settings = Object.fromEntries(own);
  return { ...settings, ...surroundedOf(askedBy(family, settings), typed) };
}

/** The conditions that a family asks for; none while its settings are no settings yet. */
const askedBy = (family: Family, settings: Settings) => unlessRefused(() => conditionsFor(family, settings)) ?? [];

/** Conditions that were typed, in their units; what cannot be read stays as it is, so that the core can name it. */
function surroundedOf(asked: readonly ConditionName[], typed: Readonly<Record<string, string>>): Settings {
  const said = asked.flatMap((name): [string, number | string][] => {
    const text = typed[name] ?? '';
    const value = unlessRefused(() => typedCondition(text, name));
    return text.trim() ? [[name, value ?? text]] : [];
  });
  return Object.fromEntries(said);
}

/** What the contract's schema is asked about. */
export function sensorOf(form: SensorForm): unknown {
  const { points, channel, settings, takes, limits, pressurised, stocked, highPurity, ...rest } = form;
  const family = familyOf(form.family);
  const set = settingsOf(family, settings);
  return {
    ...rest,
    settings: set,
    takes: Object.fromEntries(askedBy(family, set).flatMap((name) => (takes[name] ? [[name, takes[name]]] : []))),
    sensorName: rest.sensorName.trim() || `${rest.loopName.trim()} probe`,
    workingValue: typedNumber(rest.workingValue),
    workingC: typedNumber(rest.workingC),
    tolerance: typedNumber(rest.tolerance),
    intervalDays: typedNumber(rest.intervalDays),
    holdMinutes: typedNumber(rest.holdMinutes),
    limits: limitsOf(limits),
    surroundings: surroundingsOf({ pressurised, stocked, highPurity }),
    pointSet: pointsOf(points),
    channel: channelOf(channel),
  };
}

/** Why a family has no such working value; null when it has. */
function outOfRange(form: SensorForm): string | null {
  try {
    const family = familyOf(form.family);
    const model = modelOf(family, settingsOf(family, form.settings));
    const value = Number(typedNumber(form.workingValue));
    requireWithin(value, model.range.low, model.range.high, 'working value', model.valueUnit, 'Type where it is kept.');
    return null;
  } catch (error) {
    if (error instanceof Refusal) return upper(error.message);
    throw error;
  }
}

/** Checks the form by the contract's own schema, so that screen and server cannot disagree. */
const check = yupResolver(newSensorSchema) as unknown as Resolver<NewSensor>;
export const resolver: Resolver<SensorForm> = async (form, context, options) => {
  const result = await check(sensorOf(form) as NewSensor, context, options as unknown as Parameters<typeof check>[2]);
  const { pointSet, ...errors } = result.errors as FieldErrors<NewSensor>;
  if (!Object.keys(result.errors).length) {
    const message = outOfRange(form);
    if (message === null) return { values: form, errors: {} };
    return { values: {}, errors: { workingValue: { type: 'range', message } } as FieldErrors<SensorForm> };
  }
  return { values: {}, errors: { ...errors, ...(pointSet ? { points: pointSet } : {}) } as FieldErrors<SensorForm> };
};

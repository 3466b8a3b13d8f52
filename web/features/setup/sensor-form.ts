import { yupResolver } from '@hookform/resolvers/yup';
import type { FieldErrors, Resolver } from 'react-hook-form';
import {
  familyOf,
  modelOf,
  Refusal,
  requireWithin,
  USUAL_HOLD_MIN,
  usualSets,
  type ControlAction,
  type DueBy,
} from '@frustum/core';
import { newSensorSchema, type NewSensor, type SetUpLoop } from '@frustum/contract';
import { upper } from '../../format/in-family.ts';
import { typedNumber } from '../../format/typed.ts';
import { limitsOf, limitsTyped, pointsOf, surroundingsOf, surroundingsTyped, type PartsForm } from './loop-parts.ts';
import { scaleOfForm, scaleTrouble, scaleTyped, type ScaleForm } from './scale-fields.tsx';
import { settingsOf, settingsTyped, takesOf } from './settings-typed.ts';
import { USUAL_CHANNEL, type ChannelForm } from '../../wires/channel-form.ts';
import { channelOf, formOf } from '../../wires/wire-forms.ts';

/** The form's own shape: flat, all text; the schema makes a sensor of it. */
export interface SensorForm extends PartsForm, ScaleForm {
  siteName: string;
  loopName: string;
  place: string;
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
  scale: 'pH',
  step: '',
  intervalDays: '30',
  dueBy: 'calendar',
  controls: '',
  controlAction: '',
  holdMinutes: String(USUAL_HOLD_MIN),
  referenceGroup: '',
  body: '',
  water: '',
  backupOf: '',
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
  const { family, place, controls, controlAction, referenceGroup, dueBy, surroundings } = loop;
  return {
    ...settingsTyped(family, loop),
    place,
    controls,
    controlAction,
    referenceGroup,
    dueBy,
    ...scaleTyped(loop),
    workingC: String(loop.workingC),
    intervalDays: String(loop.intervalDays),
    holdMinutes: String(loop.holdMinutes),
    points: loop.pointSet.join(' '),
    limits: limitsTyped(loop.limits),
    ...surroundingsTyped(surroundings),
    channel: formOf(loop.channel),
  };
}

/** What the contract's schema is asked about. */
export function sensorOf(form: SensorForm): unknown {
  const { points, channel, settings, limits, pressurised, stocked, highPurity, scale: _, step: __, ...rest } = form;
  const family = familyOf(form.family);
  const set = settingsOf(family, settings);
  return {
    ...rest,
    // The browser’s, for a site that is new.
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    settings: set,
    takes: takesOf(form, set),
    backupOf: rest.backupOf || null,
    sensorName: rest.sensorName.trim() || `${rest.loopName.trim()} probe`,
    ...scaleOfForm(form, null),
    workingC: typedNumber(rest.workingC),
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
  const trouble = scaleTrouble(form);
  if (trouble !== null) return trouble;
  try {
    const family = familyOf(form.family);
    const { range, valueUnit } = modelOf(family, settingsOf(family, form.settings));
    const { workingValue } = scaleOfForm(form, null);
    requireWithin(Number(workingValue), range.low, range.high, 'working value', valueUnit, 'Type where it is kept.');
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
  const { pointSet, shownAs, ...errors } = result.errors as FieldErrors<NewSensor>;
  if (!Object.keys(result.errors).length) {
    const message = outOfRange(form);
    if (message === null) return { values: form, errors: {} };
    return { values: {}, errors: { workingValue: { type: 'range', message } } as FieldErrors<SensorForm> };
  }
  return {
    values: {},
    errors: {
      ...errors,
      ...(pointSet ? { points: pointSet } : {}),
      ...(shownAs?.step ? { step: shownAs.step } : {}),
    } as FieldErrors<SensorForm>,
  };
};

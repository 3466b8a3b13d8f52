import { yupResolver } from '@hookform/resolvers/yup';
import { familyOf } from '@frustum/core';
import type { FieldErrors, Resolver } from 'react-hook-form';
import {
  changeFittedSensorSchema,
  changeLoopSchema,
  type ChangeFittedSensor,
  type ChangeLoop,
  type SetUpLoop,
} from '@frustum/contract';
import { typedNumber } from '../../format/typed.ts';
import { scaleOfForm, scaleTrouble, scaleTyped, type ScaleForm } from './scale-fields.tsx';
import { settingsOf, settingsTyped, takesOf } from './settings-typed.ts';
import { limitsOf, limitsTyped, pointsOf, surroundingsOf, surroundingsTyped, type PartsForm } from './loop-parts.ts';

/** A loop and its sensor as they are typed. */
export interface LoopForm extends PartsForm, ScaleForm {
  readonly name: string;
  readonly place: string;
  readonly intervalDays: string;
  readonly dueBy: string;
  readonly controls: string;
  readonly controlAction: string;
  readonly holdMinutes: string;
  readonly sensorName: string;
  readonly serial: string;
  readonly fittedOn: string;
  readonly model: string;
  readonly boughtOn: string;
  /** what goes for others of its kind goes for them, too */
  readonly forAll: boolean;
  readonly why: string;
}

const TEXTS = ['name', 'place', 'dueBy', 'controls', 'controlAction', 'referenceGroup', 'body', 'water'] as const;
const NUMBERS = ['workingC', 'intervalDays', 'holdMinutes'] as const;

export const formOfLoop = (loop: SetUpLoop): LoopForm => ({
  ...(Object.fromEntries([...TEXTS, ...NUMBERS].map((key) => [key, String(loop[key])])) as Record<
    (typeof TEXTS | typeof NUMBERS)[number],
    string
  >),
  ...settingsTyped(loop.family, loop),
  ...scaleTyped(loop),
  backupOf: loop.backupOf ?? '',
  limits: limitsTyped(loop.limits),
  ...surroundingsTyped(loop.surroundings),
  points: loop.pointSet.join(' '),
  sensorName: loop.sensor?.name ?? '',
  serial: loop.sensor?.serial ?? '',
  model: loop.sensor?.model ?? '',
  boughtOn: loop.sensor?.boughtOn ?? '',
  fittedOn: loop.sensor?.fittedOn ?? '',
  forAll: false,
  why: '',
});

/** Alike whatever the order of their keys. */
const isSame = (a: unknown, b: unknown): boolean => plain(a) === plain(b);
const plain = (value: unknown): string =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? JSON.stringify(Object.entries(value).sort(([a], [b]) => a.localeCompare(b)))
    : JSON.stringify(value);

/** What becomes another of the loop: nothing that stays. */
export function loopChange(form: LoopForm, loop: SetUpLoop): ChangeLoop['to'] {
  const typed = [
    ...TEXTS.map((key) => [key, form[key].trim()] as const),
    ...NUMBERS.map((key) => [key, typedNumber(form[key])] as const),
    ...Object.entries(scaleOfForm(form, loop)),
    ['limits', limitsOf(form.limits)] as const,
    ['surroundings', surroundingsOf(form)] as const,
    ['pointSet', pointsOf(form.points)] as const,
    ['backupOf', form.backupOf || null] as const,
  ];
  const family = familyOf(loop.family);
  const settings = settingsOf(family, form.settings);
  const takes = takesOf(form, settings);
  return {
    ...(Object.fromEntries(
      typed.filter(([key, value]) => !isSame(value, loop[key as keyof SetUpLoop])),
    ) as ChangeLoop['to']),
    // A loop that says less of its settings than there is to say has the usual in their place.
    ...(isSame(settings, settingsOf(family, settingsTyped(loop.family, loop).settings)) ? {} : { settings }),
    ...(isSame(takes, loop.takes) ? {} : { takes }),
  };
}

/** What becomes another of its sensor. */
export function sensorChange(form: LoopForm, { sensor }: SetUpLoop): ChangeFittedSensor['to'] {
  if (!sensor) return {};
  const typed = {
    name: form.sensorName.trim(),
    serial: form.serial.trim(),
    model: form.model.trim(),
    boughtOn: form.boughtOn || null,
    fittedOn: form.fittedOn,
  };
  return Object.fromEntries(
    Object.entries(typed).filter(([key, value]) => value !== sensor[key as keyof typeof typed]),
  );
}

const checkLoop = yupResolver(changeLoopSchema) as unknown as Resolver<ChangeLoop>;
const checkSensor = yupResolver(changeFittedSensorSchema) as unknown as Resolver<ChangeFittedSensor>;

/** Checks what becomes another by the contract's own schemas, so that screen and server cannot disagree. */
export const resolverFor =
  (loop: SetUpLoop): Resolver<LoopForm> =>
  async (form, context, options) => {
    const asked = { version: loop.version, why: form.why };
    const ofLoop = await checkLoop({ ...asked, to: loopChange(form, loop) }, context, options as never);
    const ofSensor = await checkSensor({ ...asked, to: sensorChange(form, loop) }, context, options as never);
    const trouble = scaleTrouble(form);
    const ofShown = (ofLoop.errors as FieldErrors<ChangeLoop>).to?.shownAs?.step;
    const { name: sensorName, ...sensor } = (ofSensor.errors as FieldErrors<ChangeFittedSensor>).to ?? {};
    const errors = {
      ...(ofLoop.errors as FieldErrors<ChangeLoop>).to,
      ...sensor,
      ...(ofShown ? { step: ofShown } : {}),
      ...(trouble ? { workingValue: { type: 'range', message: trouble } } : {}),
      ...(sensorName ? { sensorName } : {}),
    } as FieldErrors<LoopForm>;
    return Object.keys(errors).length ? { values: {}, errors } : { values: form, errors: {} };
  };

import {
  CONDITIONS,
  PROCEDURE_KINDS,
  SENSOR_STATES,
  type ConditionName,
  type LotId,
  type ProcedureKind,
  type SensorId,
  type SensorState,
} from '@frustum/core';
import { array, number, object, string, type InferType, type NumberSchema } from 'yup';
import { finite, MAX_SIGNAL, words } from './fields.ts';

export const startRunSchema = object({
  sensorId: string<SensorId>().uuid().required(),
  procedure: string<ProcedureKind>().oneOf(PROCEDURE_KINDS).default('calibrate'),
  /** a team's own; null = the built-in one */
  procedureId: string().uuid().nullable().default(null),
  sensorState: string<SensorState>().oneOf(SENSOR_STATES).default('in-use'),
  points: array(
    object({
      standardId: string().required().max(80),
      lotId: string<LotId>().uuid().nullable().default(null),
    }).noUnknown(),
  )
    .max(5, 'Five standards at most.')
    .default([]),
  /** for an electrical check: what each box stands for, in the unit of the channel */
  boxes: array(
    object({
      label: words(40).required('A box needs a name.'),
      applied: finite().min(-MAX_SIGNAL).max(MAX_SIGNAL),
      use: string<'adjust' | 'verify'>().oneOf(['adjust', 'verify']).required(),
    }).noUnknown(),
  )
    .max(5, 'Five boxes at most.')
    .default([]),
  /** conditions as they are typed for this run; what is not there comes from another loop, or from the set-up */
  conditions: object(
    Object.fromEntries((Object.keys(CONDITIONS) as ConditionName[]).map((name) => [name, number().typeError(`The ${CONDITIONS[name].name} is not a figure.`)])) as Record<ConditionName, NumberSchema<number | undefined>>, // prettier-ignore
  )
    .noUnknown()
    .default({}),
  /** limit of an electrical check, % of span */
  limitPercent: finite().min(0.01).max(20).default(0.5),
  school: string<'statistical' | 'fixed-time' | 'hand-count'>()
    .oneOf(['statistical', 'fixed-time', 'hand-count'])
    .required(),
  fixedSeconds: finite().integer().min(5, 'Wait at least 5 s.').max(3600, 'Wait at most an hour.').default(120),
  /** gates that stand open, and why the run begins all the same */
  overrides: array(
    object({ id: string().required().max(120), because: words(300).required('Say why, in a few words.') }).noUnknown(),
  )
    .max(20)
    .default([]),
}).noUnknown();
export type StartRun = InferType<typeof startRunSchema>;

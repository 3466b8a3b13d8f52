import { SERVICE_KINDS, type ServiceEvent } from '@frustum/core';
import { object, string, type InferType } from 'yup';
import { moment, words } from './fields.ts';

/** What may be done to a sensor outside of a run. */
export const SERVICES = SERVICE_KINDS;

export const serviceSchema = object({
  kind: string<ServiceEvent['kind']>().oneOf(SERVICES).required('Say what was done.'),
  note: words(500).default(''),
  /** when, if not just now */
  at: moment('Give day and time.').optional(),
}).noUnknown();
export type NewService = InferType<typeof serviceSchema>;

/** An entry of the service log that is taken back. */
export const takeBackSchema = object({
  at: moment('Give day and time.').required(),
  kind: string().oneOf(SERVICES).required(),
}).noUnknown();
export type TakeBack = InferType<typeof takeBackSchema>;

import type { AlarmLimits, LoopId } from '@frustum/core';
import { array, object, string, type InferType } from 'yup';
import { whole, words } from './fields.ts';
import { alarmLimits } from './set-up.ts';

/** Limits of several loops, each with its own: all of them, or none. */
export const keepLimitsSchema = object({
  loops: array(
    object({
      loopId: string<LoopId>().uuid('Pick loops from the list.').required(),
      version: whole('Version', 1, 1_000_000),
      alarmLimits: alarmLimits.required('Say its limits; {} is none.'),
    }).noUnknown(),
  )
    .min(1, 'Pick a loop.')
    .max(200, 'At most 200 loops at once.')
    .required(),
  why: words(300).default(''),
}).noUnknown();
export type KeepLimits = InferType<typeof keepLimitsSchema>;

/** What a loop has shown over the last days, and which limits would fit. Own unit of the family, all of it. */
export interface LimitsView {
  readonly loopId: LoopId;
  readonly version: number;
  /** as they are kept; {} = nothing is watched */
  readonly kept: Partial<AlarmLimits>;
  /** null where too little was shown */
  readonly proposed: Partial<AlarmLimits> | null;
  /** what the proposed ones would have called for in this time */
  readonly calls: number;
  /** what each hour of the day usually adds, from midnight UTC */
  readonly course: readonly number[];
  readonly days: number;
  /** stretches of a few hours: time, lowest, mean, highest */
  readonly buckets: readonly (readonly [atMs: number, low: number, mean: number, high: number])[];
  /** what it shows now, where that is known */
  readonly now: number | null;
}

import type { LoopId, SensorId, Settings, ShownAs } from '@frustum/core';
import { object, string, type InferType } from 'yup';
import { readable, words } from './fields.ts';

const id = (what: string) => string().uuid(`${what} is no id.`);

/** What was read off a display. */
export const walkReadingSchema = object({
  /** given by the device: the same one sent twice is there once */
  id: id('The reading').required('The reading has no id.'),
  loopId: string<LoopId>().uuid('Pick a loop from the walk.').required('Say which display.'),
  typed: readable('The figure').max(40, 'The figure is too long.').required('The figure is missing.'),
  /** a scale of its family */
  unit: string().max(60, 'The unit is too long.').required('The unit is missing.'),
  /** the reading of this walk that it takes the place of; null = none */
  replaces: id('The other reading').nullable().default(null),
  /** what it looked like, where somebody says that it stands all the same */
  doubt: words(200).default(''),
}).noUnknown();
export type NewWalkReading = InferType<typeof walkReadingSchema>;

/** What was read at a display in this walk. */
export interface WalkDone {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly typed: string;
  readonly unit: string;
  /** in the family's own unit, as is the ± */
  readonly value: number;
  readonly plusMinus: number;
  readonly doubt: string;
}

/** A display on the way. */
export interface WalkStop {
  readonly loopId: LoopId;
  readonly sensorId: SensorId;
  readonly loopName: string;
  readonly place: string;
  readonly siteName: string;
  readonly family: string;
  readonly settings: Settings;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly shownAs: ShownAs;
  /** what it usually shows at this hour, with its spread, own unit; by its set-up where too little was read */
  readonly usual: { readonly value: number; readonly sd: number; readonly from: 'readings' | 'set-up' };
  /** its sensor is at the bench: nothing is read there now */
  readonly atBench: boolean;
  readonly done: WalkDone | null;
}

export interface WalkView {
  /** null before the first one */
  readonly walk: {
    readonly walkId: string;
    readonly begunAt: string;
    readonly by: string;
    readonly endedAt: string | null;
  } | null;
  /** displays that are read by eye, in the order of one's own */
  readonly stops: readonly WalkStop[];
}

import { FAMILIES, type LifeEventKind, type LoopId, type RunId, type RunOutcome, type SensorId } from '@frustum/core';
import { boolean, object, string, type InferType } from 'yup';
import type { SetUpSensor } from './changes.ts';
import { day, moment, readable, trimmed, whole, words } from './fields.ts';
import type { ServiceRow } from './sensor-views.ts';
import { placeName } from './set-up.ts';

const DAY = 'Type the date as 2026-11-23.';
const SHELF = ['wet', 'dry'] as const;
const AWAY = ['wet', 'dry', 'retired'] as const;

/** A sensor for the shelf. */
export const newSpareSchema = object({
  name: placeName('Sensor'),
  serial: readable('The serial').transform(trimmed).max(60, 'Shorten the serial to 60 characters.').default(''),
  family: string()
    .required('Say what it measures.')
    .oneOf(
      FAMILIES.map((f) => f.id),
      'Pick one of the families.',
    ),
  model: readable('The model').transform(trimmed).max(60, 'Shorten the model to 60 characters.').default(''),
  boughtOn: day(DAY).nullable().default(null),
  storage: string<(typeof SHELF)[number]>().oneOf(SHELF, 'Stored wet or dry: pick one.').default('wet'),
  /** it is put into storage solution now */
  soaking: boolean().default(false),
}).noUnknown();
export type NewSpare = InferType<typeof newSpareSchema>;

/** Where a sensor goes. */
export const moveSensorSchema = object({
  version: whole('Version', 1, 1_000_000),
  to: string<'loop' | (typeof AWAY)[number]>()
    .oneOf(['loop', ...AWAY], 'To a loop, onto the shelf (wet or dry), or out of use: pick one.')
    .required('Say where it goes.'),
  loopId: string<LoopId>()
    .uuid('Pick a loop from the list.')
    .when('to', ([to], schema) => (to === 'loop' ? schema.required('Pick the loop.') : schema.optional())),
  /** where the sensor goes that is fitted there until now */
  displaced: string<(typeof AWAY)[number]>().oneOf(AWAY, 'Onto the shelf, wet or dry, or out of use.').optional(),
  /** the sensor that was on screen as fitted there; the move is refused when a different sensor is there now */
  instead: string<SensorId>().uuid('Look at the loop again.').optional(),
  /** it has soaked long enough, whatever is usual */
  soaked: boolean().default(false),
  /** when, if not just now */
  at: moment('Give day and time.').optional(),
  why: words(300).default(''),
}).noUnknown();
export type MoveSensor = InferType<typeof moveSensorSchema>;

/** What happened to a sensor, of whatever kind. */
export interface LifeRow {
  readonly at: string;
  readonly kind: LifeEventKind;
  readonly loopId: LoopId | null;
  readonly loopName: string;
  readonly by: string;
  readonly why: string;
}

/** A sensor from its first day on, wherever it is now. */
export interface LifeView {
  readonly nowMs: number;
  readonly sensor: SetUpSensor & { readonly family: string };
  /** where it is fitted; null on the shelf and when it is retired */
  readonly loop: { readonly loopId: LoopId; readonly name: string } | null;
  readonly storage: string;
  readonly retiredAt: string | null;
  /** days in use so far: fitted, wherever */
  readonly daysFitted: number;
  readonly events: readonly LifeRow[];
  readonly services: readonly ServiceRow[];
  readonly runs: readonly {
    readonly runId: RunId;
    readonly loopName: string;
    readonly endedAt: string | null;
    readonly status: string;
    readonly outcome: RunOutcome | null;
  }[];
  /** other sensors of its model whose life is over, days fitted */
  readonly others: readonly { readonly sensorId: SensorId; readonly name: string; readonly daysFitted: number }[];
}

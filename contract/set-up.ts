import { array, boolean, lazy, mixed, number, object, string, tuple, type InferType, type StringSchema } from 'yup';
import {
  CONDITIONS,
  DUE_BY,
  FAMILIES,
  USUAL_HOLD_MIN,
  type ConditionName,
  type ControlAction,
  type DueBy,
  type LoopId,
  type Surrounding,
} from '@frustum/core';
import { channelSchema } from './channels.ts';
import { day, figure, readable, trimmed, whole, within } from './fields.ts';

/** A plain name of a place, a sensor or a person. */
export const placeName = (label: string, most = 60) =>
  readable(label)
    .transform(trimmed)
    .required(`${label} is missing. Type a plain, unique name.`)
    .max(most, `${label} has more than ${most} characters. Shorten it.`);

const optional = (most: number) => readable('The text').transform(trimmed).max(most).default('');

/** A limit of a loop's own; absent = as usual. */
const own = (label: string, low: number, high: number) =>
  number()
    .typeError(`${label} is not a figure. Leave it empty for the usual one.`)
    .min(low, `${label} is below ${low}. Leave it empty for the usual one.`)
    .max(high, `${label} is above ${high}. Leave it empty for the usual one.`)
    .optional();

/** What decides when a loop's next run is due. */
const schedule = {
  intervalDays: whole('Interval', 1, 730),
  dueBy: string<DueBy>().oneOf(DUE_BY, 'Due by the calendar or by the forecast: pick one.').default('calendar'),
};

/** Another schedule for a loop, and the one that it was changed from. */
export const changeScheduleSchema = object({
  ...schedule,
  was: object(schedule).noUnknown().required('Say what the schedule was: somebody may have changed it meanwhile.'),
}).noUnknown();
export type ChangeSchedule = InferType<typeof changeScheduleSchema>;

/** Limits of its own; what is not there is the family's usual one. */
const ownLimits = object({
  zero: own('Largest zero', 0, 1e6),
  sensitivityLow: own('Lowest sensitivity', 0.01, 1.5),
  sensitivityHigh: own('Highest sensitivity', 0.5, 20),
  t90Seconds: own('Longest response', 1, 86_400),
  adjustAboveShare: own('Share that is left alone', 0, 1),
  guardShare: own('Guard band, share of the ±', 0, 1),
}).noUnknown();

const TOLERANCE = 'A tolerance is above 0. Type how far off is still good, like 0.1.';
/** The zones that this engine knows, and UTC. */
const isZone = (zone: string) => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
};
export const timeZone = string()
  .max(60)
  .test(
    'zone',
    'There is no such time zone. Type it like Europe/Paris, or UTC.',
    (zone) => zone === undefined || isZone(zone),
  );

const backupOf = string<LoopId>().uuid('Pick a loop from the list.').nullable();
const surroundings = array(string<Surrounding>().oneOf(['pressurised', 'stocked', 'high-purity']).required()).max(3);

/** Settings that were given: each is held against its own field by the core, which knows the family. */
const settingsGiven = (given: unknown) =>
  object(
    Object.fromEntries(
      Object.entries((given ?? {}) as Record<string, unknown>)
        .slice(0, 8)
        .map(([key, value]) => [
          key,
          typeof value === 'number' ? figure(key) : string().required().max(60, `${key} is too long.`),
        ]),
    ),
  ).noUnknown();

/** Loops that show conditions of this one, by their ids. */
const takes = object(
  Object.fromEntries((Object.keys(CONDITIONS) as ConditionName[]).map((name) => [name, string<LoopId>().uuid('Pick a loop from the list.')])) as Record<ConditionName, StringSchema<LoopId | undefined>>, // prettier-ignore
).noUnknown();

/** How its instrument writes its values: the core knows which scales its family has. */
const shownAs = object({
  scale: readable('The scale').max(60, 'The scale is too long.').default(''),
  step: number()
    .typeError('The step is not a figure. Type it like 0.01, or leave it empty.')
    .moreThan(0, 'A step is above 0. Type it like 0.01, or leave it empty.')
    .max(1e6, 'A step is at most 1 000 000.')
    .nullable()
    .default(null),
}).noUnknown();

const limit = (label: string) =>
  number()
    .typeError(`${label} is not a figure. Leave it empty for none.`)
    .min(-1e9, `${label} is below any sensor.`)
    .max(1e9, `${label} is above any sensor.`)
    .nullable()
    .optional();
const minutes = (label: string, least = 1) =>
  number()
    .typeError(`${label} is not a figure of minutes.`)
    .integer(`${label}: whole minutes.`)
    .min(least, `${label} is ${least} min or more.`)
    .max(10_080, `${label} is a week at most.`);

/** Where the water of a loop should stay, in the family's own unit; what is not there is not watched. */
export const alarmLimits = object({
  warnLow: limit('The low warning'),
  warnHigh: limit('The high warning'),
  actLow: limit('The low limit to act'),
  actHigh: limit('The high limit to act'),
  forMinutes: minutes('Beyond for', 0).optional(),
  daily: boolean().optional(),
  perHour: limit('The change within an hour').moreThan(0, 'A change within an hour is above 0.'),
  frozenMinutes: minutes('Without moving for', 5).nullable().optional(),
  silentMinutes: minutes('Silent for').nullable().optional(),
}).noUnknown();

/** What of a loop may become another; what is not there stays. */
export const LOOP_FIGURES = {
  place: readable('The text').transform(trimmed).max(60).optional(),
  workingValue: figure('Working value').optional(),
  workingC: within('Water temperature', -2, 120, '°C').optional(),
  tolerance: figure('Tolerance').moreThan(0, TOLERANCE).optional(),
  shownAs: shownAs.optional().default(undefined),
  alarmLimits: alarmLimits.optional().default(undefined),
  intervalDays: whole('Interval', 1, 730).optional(),
  dueBy: string<DueBy>().oneOf(DUE_BY, 'Due by the calendar or by the forecast: pick one.').optional(),
  controls: readable('The text').transform(trimmed).max(60).optional(),
  holdMinutes: whole('Longest hold', 1, 1440).optional(),
  controlAction: string<ControlAction>().oneOf(['', 'raises', 'lowers']).optional(),
  referenceGroup: readable('The text').transform(trimmed).max(60).optional(),
  body: readable('The text').transform(trimmed).max(60).optional(),
  water: readable('The text').transform(trimmed).max(60).optional(),
  backupOf: backupOf.optional(),
  surroundings: surroundings.optional(),
  limits: ownLimits.optional().default(undefined),
  /** all of them, also those that stay */
  settings: lazy((given: unknown) => (given === undefined ? mixed().optional() : settingsGiven(given))),
  takes: takes.optional().default(undefined),
  pointSet: array(string().required()).max(5, 'Five standards at most.').optional(),
};

/** Site, loop, sensor and channel in one go: what it takes before a first run. */
export const newSensorSchema = object({
  siteName: placeName('Site'),
  /** for a site that is new */
  timeZone: timeZone.default('UTC'),
  loopName: placeName('Loop'),
  place: optional(60),
  family: string()
    .required('The family is missing.')
    .oneOf(
      FAMILIES.map((f) => f.id),
      'Pick one of the families.',
    ),
  settings: lazy(settingsGiven),
  takes: takes.default({}),
  workingValue: figure('Working value'),
  workingC: within('Water temperature', -2, 120, '°C'),
  tolerance: figure('Tolerance').moreThan(0, TOLERANCE),
  shownAs: shownAs.default({ scale: '', step: null }),
  ...schedule,
  controls: optional(60),
  /** its output is held so long at most before somebody is told */
  holdMinutes: whole('Longest hold', 1, 1440).default(USUAL_HOLD_MIN),
  controlAction: string<ControlAction>().oneOf(['', 'raises', 'lowers']).default(''),
  referenceGroup: optional(60),
  /** others of one name here hang on the same body, or in the same water; '' = as usual */
  body: optional(60),
  water: optional(60),
  /** the loop that it stands in for */
  backupOf: backupOf.default(null),
  surroundings: surroundings.default([]),
  limits: ownLimits.default({}),
  pointSet: array(string().required()).max(5, 'Five standards at most.').default([]),
  sensorName: placeName('Sensor'),
  serial: optional(60),
  fittedOn: day('Type the date as 2026-11-23.').required('The date of fitting is missing.'),
  channel: channelSchema,
}).noUnknown();
export type NewSensor = InferType<typeof newSensorSchema>;

export const newLotSchema = object({
  standardId: placeName('Standard', 80),
  label: placeName('Lot number'),
  expiresOn: day('Type the expiry date as 2027-05-31.').required('The expiry date is missing.'),
  openedOn: day('Type the date as 2026-11-23.').nullable().default(null),
  // What the label prints over temperature; the core checks that it can be this standard's.
  table: array(tuple([figure('Temperature').required(), figure('Value').required()]).required())
    .min(2, 'A table needs two rows or more.')
    .max(60, 'A table has at most 60 rows.')
    .nullable()
    .default(null),
  plusMinus: number()
    .typeError('The ± is not a figure. Type it like 0.02.')
    .min(0.0001, 'The ± is below 0.0001. Type what the label states.')
    .max(1e6, 'The ± is above 1 000 000. Type what the label states.')
    .nullable()
    .default(null),
}).noUnknown();
export type NewLot = InferType<typeof newLotSchema>;

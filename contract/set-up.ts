import { array, number, object, string, tuple, type InferType } from 'yup';
import { channelSchema } from './channels.ts';
import { figure, whole, within } from './fields.ts';

const name = (label: string, most = 60) =>
  string()
    .trim()
    .required(`${label} is missing. Type a plain, unique name.`)
    .max(most, `${label} has more than ${most} characters. Shorten it.`);

const optional = (most: number) => string().trim().max(most).default('');

/** Site, loop, sensor and channel in one go: what it takes before a first run. */
export const newSensorSchema = object({
  siteName: name('Site'),
  loopName: name('Loop'),
  place: optional(60),
  workingPh: within('Working value', 0, 14, 'pH'),
  workingC: within('Water temperature', 0, 50, '°C'),
  tolerancePh: within('Tolerance', 0.02, 2, 'pH'),
  intervalDays: whole('Interval', 1, 730),
  controls: optional(60),
  pointSet: array(string().required())
    .min(2, 'Pick two standards at least.')
    .max(3, 'Three standards at most.')
    .required(),
  sensorName: name('Sensor'),
  serial: optional(60),
  fittedOn: string()
    .matches(/^\d{4}-\d{2}-\d{2}$/, 'Type the date as 2026-11-23.')
    .required('The date of fitting is missing.'),
  channel: channelSchema,
}).noUnknown();
export type NewSensor = InferType<typeof newSensorSchema>;

export const newLotSchema = object({
  standardId: name('Standard', 80),
  label: name('Lot number'),
  expiresOn: string()
    .matches(/^\d{4}-\d{2}-\d{2}$/, 'Type the expiry date as 2027-05-31.')
    .required('The expiry date is missing.'),
  openedOn: string()
    .matches(/^\d{4}-\d{2}-\d{2}$/, 'Type the date as 2026-11-23.')
    .nullable()
    .default(null),
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

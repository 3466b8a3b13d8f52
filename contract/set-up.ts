import { array, mixed, number, object, string, tuple, type InferType } from 'yup';

/** A figure that an operator typed: a number, never NaN or infinite. */
const figure = (label: string) =>
  number()
    .typeError(`${label} is not a figure. Type it like 5.8.`)
    .required(`${label} is missing.`)
    .test('finite', `${label} is not a figure. Type it like 5.8.`, (v) => Number.isFinite(v));

const within = (label: string, low: number, high: number, unit: string) =>
  figure(label)
    .min(low, `${label} is below ${low} ${unit}. Type a value from ${low} to ${high}.`)
    .max(high, `${label} is above ${high} ${unit}. Type a value from ${low} to ${high}.`);

const name = (label: string, most = 60) =>
  string()
    .trim()
    .required(`${label} is missing. Type a plain, unique name.`)
    .max(most, `${label} has more than ${most} characters. Shorten it.`);

const optional = (most: number) => string().trim().max(most).default('');

/** Whole-number register addresses and ports of a Modbus device. */
const whole = (label: string, low: number, high: number) =>
  within(label, low, high, '').integer(`${label} is a whole number.`);

/** Registers of one probe: the map is on the set-up page and in docs/connect-a-device.md. */
export const modbusSchema = object({
  kind: string().oneOf(['modbus']).required(),
  host: string()
    .trim()
    .required('The host is missing. Type a name or address, such as 192.168.1.20.')
    .matches(/^[a-zA-Z0-9.:-]{1,253}$/, 'A host has letters, figures, dots and hyphens only.'),
  port: whole('Port', 1, 65_535).default(502),
  unitId: whole('Unit id', 0, 255).default(1),
  baseAddress: whole('First register', 0, 65_000).default(0),
}).noUnknown();

export const handSchema = object({ kind: string().oneOf(['hand']).required() }).noUnknown();

export type ChannelConfig =
  { kind: 'hand' } | { kind: 'modbus'; host: string; port: number; unitId: number; baseAddress: number };

const channelSchema = mixed<ChannelConfig>()
  .required('Say how the reading reaches Frustum.')
  .test('channel', (value, context) => {
    const schema = (value as { kind?: string } | undefined)?.kind === 'modbus' ? modbusSchema : handSchema;
    try {
      schema.validateSync(value, { strict: false, abortEarly: true });
      return true;
    } catch (error) {
      const { path, message } = error as { path?: string; message: string };
      return context.createError({ path: path ? `${context.path}.${path}` : context.path, message });
    }
  });

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

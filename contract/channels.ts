import type { Reads, Steps } from '@frustum/core';
import { array, boolean, mixed, number, object, string, type InferType, type ObjectSchema } from 'yup';
import { among } from './alternatives.ts';
import { figure, readable, trimmed, whole, within } from './fields.ts';

const host = string()
  .transform(trimmed)
  .required('The host is missing. Type a name or address, such as 192.168.1.20.')
  .matches(/^[a-zA-Z0-9.:-]{1,253}$/, 'A host has letters, figures, dots and hyphens only.');

/** How often a channel is read, and after how long without a reading it is stale. */
const pace = {
  pollSeconds: within('Read every', 0.2, 3600, 's').default(1),
  staleSeconds: within('Stale after', 1, 86_400, 's').default(15),
};

/**
 * What a channel's number can be, once it is scaled, and what no sensor of that kind ever gives. A count means nothing by
 * itself: only whether it stands still.
 */
export const SIGNALS = {
  mV: { words: 'millivolts of the probe', low: -2000, high: 2000 },
  pH: { words: 'pH, as the device shows it', low: -1, high: 15 },
  µS: { words: 'conductance, µS', low: -10, high: 2_000_000 },
  'µS/cm': { words: 'conductivity, µS/cm', low: -10, high: 2_000_000 },
  'mS/cm': { words: 'conductivity, mS/cm', low: -0.01, high: 2000 },
  'MΩ·cm': { words: 'resistivity, MΩ·cm', low: 0, high: 100 },
  '°C': { words: 'temperature, °C', low: -50, high: 250 },
  'PSS-78': { words: 'practical salinity', low: -1, high: 50 },
  'mg/L': { words: 'concentration, mg/L', low: -1, high: 100_000 },
  'mg/L NO3-N': { words: 'nitrate as N, mg/L', low: -10, high: 10_000 },
  'mg/L NO3': { words: 'nitrate as NO3, mg/L', low: -40, high: 40_000 },
  'mg/L activity': { words: 'activity of an ion, mg/L', low: -1, high: 1_000_000 },
  'mg/L O2': { words: 'dissolved oxygen, mg/L', low: -1, high: 80 },
  '% sat': { words: 'dissolved oxygen, % of saturation', low: -10, high: 500 },
  'kPa O2': { words: 'partial pressure of oxygen, kPa', low: -2, high: 110 },
  'hPa O2': { words: 'partial pressure of oxygen, hPa', low: -20, high: 1100 },
  'τ0/τ': { words: 'lifetime without oxygen over lifetime', low: 0, high: 1000 },
  nA: { words: 'current of a membrane cell, nA', low: -1000, high: 1_000_000 },
  counts: { words: 'raw counts', low: -2_147_483_648, high: 4_294_967_295 },
} as const;
export type SignalUnit = keyof typeof SIGNALS;
const UNITS = Object.keys(SIGNALS) as SignalUnit[];
const UNIT_LIST = UNITS.join(', ');

/** From the number on the wire to the signal: times scale, plus offset; a current goes through its span first. */
const scaling = {
  scale: figure('Scale')
    .test('not-zero', 'A scale of 0 shows nothing. Type what one step of the device is worth.', (v) => v !== 0)
    .default(1),
  offset: figure('Offset').default(0),
  /** what the scaled number is, or the current of a 4-20 mA loop */
  quantity: string<SignalUnit | 'mA'>()
    .oneOf([...UNITS, 'mA'], `The number is one of ${UNIT_LIST}, mA.`)
    .default('mV'),
  /** what a current stands for */
  at4: figure('Value at 4 mA').default(-500),
  at20: figure('Value at 20 mA').default(500),
  spanUnit: string<SignalUnit>().oneOf(UNITS, `A span is in one of ${UNIT_LIST}.`).default('mV'),
};

const edge = (label: string) =>
  number().typeError(`${label} is not a figure. Leave it empty for none.`).nullable().default(null);

/** What belongs to a channel whatever its wire. */
const about = {
  /** whether a probe takes its coefficients along when it moves */
  coefficientsIn: string<'instrument' | 'sensor'>()
    .oneOf(['instrument', 'sensor'], 'Coefficients live in the instrument or in the sensor’s head.')
    .default('instrument'),
  /** which thermometer compensates it, in the operator's words; '' = its own */
  compensatedBy: readable('The thermometer’s name')
    .transform(trimmed)
    .max(60, 'Shorten the thermometer’s name to 60 characters.')
    .default(''),
  /** what the channel can show, in its own unit; beyond it is a fault */
  rangeLow: edge('The low end of the range'),
  rangeHigh: edge('The high end of the range').test(
    'ends',
    'The range ends below its beginning. Swap the two.',
    (high, { parent }) => {
      const low = (parent as { rangeLow?: number | null }).rangeLow ?? null;
      return high === null || low === null || high > low;
    },
  ),
  /** what acts on its value: held with the loop while the probe is out */
  outputs: array(
    readable('An output’s name').transform(trimmed).max(60, 'Shorten an output’s name to 60 characters.').required(),
  )
    .max(8, 'Eight outputs at most.')
    .default([]),
  /** switched off: nobody reads it */
  off: boolean().default(false),
};

/** Name of a log-in that the server keeps in its own folder; never the log-in itself. */
const logIn = string()
  .transform(trimmed)
  .matches(/^[a-zA-Z0-9._-]{0,40}$/, 'The name of a log-in has letters, figures, dots and hyphens.')
  .default('');

const registerType = (label: string) =>
  string().oneOf(['int16', 'uint16', 'int32', 'uint32', 'float32'], `${label}: pick one of the five types.`);

/** A temperature that the device does not give is set by hand. */
const fixedC = number()
  .typeError('The temperature is not a figure. Type it like 25.')
  .min(-5, 'The temperature is below −5 °C.')
  .max(110, 'The temperature is above 110 °C.')
  .nullable()
  .default(null);

const handSchema = object({
  kind: string<'hand'>().oneOf(['hand']).required(),
  /** what is typed; '' in records from before: mV. At the bench it is typed in any unit of its family */
  quantity: string<SignalUnit | ''>()
    .oneOf([...UNITS, ''], `What is typed is one of ${UNIT_LIST}.`)
    .default(''),
  ...about,
}).noUnknown();

/** Frustum's own register map, the one of docs/connect-a-device.md: mV, °C, clock, status, writable coefficients. */
const modbusSchema = object({
  kind: string<'modbus'>().oneOf(['modbus']).required(),
  host,
  port: whole('Port', 1, 65_535).default(502),
  unitId: whole('Unit id', 0, 255).default(1),
  baseAddress: whole('First register', 0, 65_000).default(0),
  /** the device measures the impedance of membrane and reference too, in +5 and +6 */
  impedance: boolean().default(false),
  ...about,
}).noUnknown();

/** Any other device on Modbus TCP: where the signal lies, as what, and what one step is worth. */
const modbusMapSchema = object({
  kind: string<'modbus-map'>().oneOf(['modbus-map']).required(),
  host,
  port: whole('Port', 1, 65_535).default(502),
  unitId: whole('Unit id', 0, 255).default(1),
  table: string().oneOf(['input', 'holding'], 'Registers are input or holding ones.').default('input'),
  words: string().oneOf(['high-first', 'low-first'], 'The high or the low word comes first.').default('high-first'),
  register: whole('Signal register', 0, 65_535),
  type: registerType('Signal').default('int16'),
  ...scaling,
  temperatureRegister: number()
    .typeError('Temperature register is not a figure. Type it like 11.')
    .integer('Temperature register is a whole number.')
    .min(0, 'Temperature register is below 0.')
    .max(65_535, 'Temperature register is above 65535.')
    .nullable()
    .default(null),
  temperatureType: registerType('Temperature').default('int16'),
  temperatureScale: figure('Temperature scale').default(1),
  fixedC,
  ...pace,
  ...about,
}).noUnknown();

/** It sends later what it measured while it was away: readings are then kept under their own time. */
const buffered = boolean().default(false);

const pointer = (label: string) =>
  string()
    .transform(trimmed)
    .max(200, `${label} has more than 200 characters.`)
    .matches(/^(\/.*)?$/, `${label} begins with “/”, like /probes/0/mv.`);

/** A device that answers JSON over HTTP. */
const httpJsonSchema = object({
  kind: string<'http-json'>().oneOf(['http-json']).required(),
  url: string()
    .transform(trimmed)
    .required('The address is missing. Type it like http://192.168.1.20/api/probes.')
    .max(500, 'The address has more than 500 characters.')
    .test('url', 'The address is no http or https one. Type it like http://192.168.1.20/api/probes.', (v) => isWeb(v))
    .test('real', 'The address cannot be: check its host and port (1 to 65535).', (v) => !isWeb(v) || hasRealPort(v))
    .test('no-secret', 'A name and password in an address end up in records. Leave them out.', (v) => !hasSecret(v)),
  pointer: pointer('Path to the signal').default(''),
  logIn,
  ...scaling,
  temperaturePointer: pointer('Path to the temperature').nullable().default(null),
  /** seconds by the device's own clock, where it says them: its trace then does not depend on when it is asked */
  clockPointer: pointer('Path to its clock').nullable().default(null),
  buffered,
  temperatureUnit: string().oneOf(['°C', '°F'], 'A temperature is in °C or °F.').default('°C'),
  fixedC,
  ...pace,
  ...about,
}).noUnknown();

/** A device that publishes on an MQTT broker: one topic, JSON or a SenML pack in it. */
const mqttSchema = object({
  kind: string<'mqtt'>().oneOf(['mqtt']).required(),
  host,
  port: whole('Port', 1, 65_535).default(1883),
  version: string().oneOf(['3.1.1', '5'], 'MQTT is spoken as 3.1.1 or as 5.').default('3.1.1'),
  topic: string()
    .transform(trimmed)
    .required('The topic is missing. Type it like hall/line-2/now.')
    .max(200, 'The topic has more than 200 characters.')
    .matches(/^[^+#]*$/, 'A channel reads one topic: leave out + and #.')
    .test('text', 'A topic is plain text.', (v) => !v.includes('\u0000')),
  format: string().oneOf(['json', 'senml'], 'A message is JSON or a SenML pack.').default('json'),
  logIn,
  /** JSON: a path; SenML: the name of a record, base name included */
  pointer: string()
    .transform(trimmed)
    .max(200, 'The path to the signal has more than 200 characters.')
    .default('')
    .test('path', 'Path to the signal begins with “/”, like /probe/mv.', (v, { parent }) => {
      return (parent as { format?: string }).format === 'senml' || /^(\/.*)?$/.test(v);
    }),
  ...scaling,
  temperaturePointer: string()
    .transform(trimmed)
    .max(200, 'The path to the temperature has more than 200 characters.')
    .nullable()
    .default(null),
  /** JSON: seconds by the device's own clock; a SenML pack says them itself */
  clockPointer: pointer('Path to its clock').nullable().default(null),
  buffered,
  temperatureUnit: string().oneOf(['°C', '°F'], 'A temperature is in °C or °F.').default('°C'),
  fixedC,
  ...pace,
  ...about,
}).noUnknown();

const authority = (value: string) => /^https?:\/\/([^/?#\s]+)/i.exec(value)?.[1] ?? '';
const isWeb = (value: string) => authority(value) !== '' && !/\s/.test(value);
const hasRealPort = (value: string) =>
  Number(/:(\d+)$/.exec(authority(value))?.[1] ?? 80) - 1 < 65_535 && !/:0*$/.test(authority(value));
const hasSecret = (value: string) => authority(value).includes('@');

const SCHEMAS = {
  hand: handSchema,
  modbus: modbusSchema,
  'modbus-map': modbusMapSchema,
  'http-json': httpJsonSchema,
  mqtt: mqttSchema,
} as const;

export type ChannelKind = keyof typeof SCHEMAS;
export type ModbusConfig = InferType<typeof modbusSchema>;
export type ModbusMapConfig = InferType<typeof modbusMapSchema>;
export type HttpJsonConfig = InferType<typeof httpJsonSchema>;
export type MqttConfig = InferType<typeof mqttSchema>;
export type HandConfig = InferType<typeof handSchema>;
export type ChannelConfig = HandConfig | ModbusConfig | ModbusMapConfig | HttpJsonConfig | MqttConfig;

/** The schema of one kind of channel; by hand for what is not known, so that its own message refuses it. */
const schemaOf = (value: unknown): ObjectSchema<object> =>
  SCHEMAS[(value as { kind?: ChannelKind } | undefined)?.kind ?? 'hand'] ?? handSchema;

/** A temperature has to come from somewhere: nothing is compensated without it. */
function temperatureTrouble(value: unknown): string | null {
  const c = value as { kind?: string; fixedC?: unknown; temperatureRegister?: unknown; temperaturePointer?: unknown };
  if (c.kind === 'hand' || c.kind === 'modbus') return null;
  const own = c.kind === 'modbus-map' ? c.temperatureRegister : c.temperaturePointer;
  const has = (c.fixedC ?? own ?? null) !== null;
  return has ? null : 'Say where the temperature comes from: from the device, or a fixed one.';
}

/** Registers of 16 bit that a type takes. */
const widthOf = (type: unknown) => (String(type).endsWith('32') ? 2 : 1);

/** Two figures cannot lie in one register, and none beyond the last. */
function registerTrouble(value: unknown): string | null {
  const c = value as { kind?: string; register?: number; type?: string; temperatureRegister?: number | null };
  if (c.kind !== 'modbus-map' || c.register === undefined) return null;
  const { temperatureType } = value as { temperatureType?: string };
  const [from, to] = [c.register, c.register + widthOf(c.type) - 1];
  if (to > 65_535) return `A 32-bit signal at ${from} would end at ${to}; registers end at 65535.`;
  const [t0, t1] = [c.temperatureRegister ?? -9, (c.temperatureRegister ?? -9) + widthOf(temperatureType) - 1];
  if (t1 > 65_535) return `A 32-bit temperature at ${t0} would end at ${t1}; registers end at 65535.`;
  if (t0 < 0 || t1 < from || t0 > to) return null;
  const span = to > from ? `registers ${from} and ${to}` : `register ${from}`;
  return `The temperature lies in the signal’s ${span}. Check both against the device’s map.`;
}

/** Frustum's own map has no limit of its own: that of the others. */
const STALE_S = 15;

/** A reading older than this is no live one, s; null for a channel that is typed. */
export function staleSecondsOf(config: ChannelConfig): number | null {
  if (config.kind === 'hand') return null;
  return 'staleSeconds' in config ? config.staleSeconds : STALE_S;
}

/** Unit of what a channel gives once it is scaled; Frustum's own map is in mV. */
export function unitOf(config: ChannelConfig): SignalUnit {
  if (config.kind === 'hand') return config.quantity || 'mV';
  if (config.kind === 'modbus') return 'mV';
  return config.quantity === 'mA' ? config.spanUnit : config.quantity;
}

/** What a computation must know of a channel, whatever its wire. */
export const readsOf = (config: ChannelConfig): Reads => ({
  unit: unitOf(config),
  kind: config.kind === 'modbus' || config.kind === 'hand' ? config.kind : 'wired',
  compensatedBy: config.compensatedBy,
  outputs: config.outputs,
});

/** What a channel says of its own steps: one count of a whole-number register is worth its scale. */
export function stepsOf(config: ChannelConfig): Steps {
  const counts = config.kind === 'modbus-map' && config.type !== 'float32';
  const perCount = !counts ? null : config.quantity === 'mA' ? ((config.at20 - config.at4) / 16) * config.scale : config.scale; // prettier-ignore
  return { typed: config.kind === 'hand', unit: unitOf(config), perCount };
}

export const channelSchema = among(
  mixed<ChannelConfig>()
    .required('Say how the reading reaches Frustum.')
    // What is usual is filled in before anything is checked.
    .transform((value: unknown) => {
      try {
        return schemaOf(value).cast(value, { assert: false }) as ChannelConfig;
      } catch {
        return value;
      }
    })
    .test('channel', (value, context) => {
      try {
        schemaOf(value).validateSync(value, { strict: false, abortEarly: true });
      } catch (error) {
        const { path, message } = error as { path?: string; message: string };
        return context.createError({ path: path ? `${context.path}.${path}` : context.path, message });
      }
      const troubles = { fixedC: temperatureTrouble(value), register: registerTrouble(value) };
      const [field, message] = Object.entries(troubles).find(([, words]) => words !== null) ?? [];
      return !message || context.createError({ path: `${context.path}.${field}`, message });
    }),
  Object.values(SCHEMAS),
);

/** A channel to be tried once, before or after it is set up. */
export const testChannelSchema = object({ channel: channelSchema }).noUnknown();

/** A channel’s new settings; refused when somebody else has changed them since. */
export const changeChannelSchema = object({
  channel: channelSchema,
  version: whole('Version', 1, 1_000_000),
}).noUnknown();
export type ChangeChannel = InferType<typeof changeChannelSchema>;

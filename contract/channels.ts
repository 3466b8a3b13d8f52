import type { Reads, Steps } from '@frustum/core';
import { mixed, object, type InferType, type ObjectSchema } from 'yup';
import { among } from './alternatives.ts';
import { whole } from './fields.ts';
import type { SignalUnit } from './signals.ts';
import { handSchema, type HandConfig } from './wires/hand.ts';
import { httpJsonSchema, type HttpJsonConfig } from './wires/http-json.ts';
import { modbusMapSchema, registerTrouble, type ModbusMapConfig } from './wires/modbus-map.ts';
import { modbusSchema, type ModbusConfig } from './wires/modbus.ts';
import { mqttSchema, type MqttConfig } from './wires/mqtt.ts';

const SCHEMAS = {
  hand: handSchema,
  modbus: modbusSchema,
  'modbus-map': modbusMapSchema,
  'http-json': httpJsonSchema,
  mqtt: mqttSchema,
} as const;

export type ChannelKind = keyof typeof SCHEMAS;
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

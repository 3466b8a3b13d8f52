import type { ObjectSchema } from 'yup';
import { hand, type HandConfig } from './hand.ts';
import { httpJson, type HttpJsonConfig } from './http-json.ts';
import type { WireKind } from './kind.ts';
import { modbusMap, type ModbusMapConfig } from './modbus-map.ts';
import { modbus, type ModbusConfig } from './modbus.ts';
import { mqtt, type MqttConfig } from './mqtt.ts';

export type ChannelConfig = HandConfig | ModbusConfig | ModbusMapConfig | HttpJsonConfig | MqttConfig;
export type ChannelKind = ChannelConfig['kind'];
/** The settings of one kind. */
export type ConfigOf<K extends ChannelKind> = Extract<ChannelConfig, { kind: K }>;

/** Every way by which readings come: a new one is a file and a line here, a reader on the server and a part of the form. */
const KINDS: { readonly [K in ChannelKind]: WireKind<ConfigOf<K>> } = {
  hand,
  modbus,
  'modbus-map': modbusMap,
  'http-json': httpJson,
  mqtt,
};

/** What is known of a channel's kind; by hand for one that is not known, so that its own message refuses it. */
export const kindOf = (config: { readonly kind?: unknown } | null | undefined): WireKind<ChannelConfig> =>
  (KINDS[(config?.kind ?? 'hand') as ChannelKind] ?? hand) as WireKind<ChannelConfig>;

export const CHANNEL_SCHEMAS: readonly ObjectSchema<object>[] = Object.values(KINDS).map((k) => k.schema);

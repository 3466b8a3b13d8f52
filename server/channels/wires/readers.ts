import type { ChannelConfig, ChannelKind, ConfigOf } from '@frustum/contract';
import { httpJson } from './http-json.ts';
import { modbusMap } from './modbus-map.ts';
import { modbus } from './modbus.ts';
import { mqtt } from './mqtt.ts';
import type { WireReader } from './wire-reader.ts';

/** What is typed has no wire. */
const READERS: { readonly [K in ChannelKind]: WireReader<ConfigOf<K>> | null } = {
  hand: null,
  modbus,
  'modbus-map': modbusMap,
  'http-json': httpJson,
  mqtt,
};

/** How a channel is read; null for one that is typed. */
export const readerOf = (config: ChannelConfig): WireReader<ChannelConfig> | null => READERS[config.kind];

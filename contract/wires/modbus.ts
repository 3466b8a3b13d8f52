import { boolean, object, string, type InferType } from 'yup';
import { whole } from '../fields.ts';
import type { WireKind } from './kind.ts';
import { about, host } from './parts.ts';

/** Frustum's own register map, the one of docs/connect-a-device.md: mV, °C, clock, status, writable coefficients. */
const schema = object({
  kind: string<'modbus'>().oneOf(['modbus']).required(),
  host,
  port: whole('Port', 1, 65_535).default(502),
  unitId: whole('Unit id', 0, 255).default(1),
  baseAddress: whole('First register', 0, 65_000).default(0),
  /** the device measures the impedance of membrane and reference too, in +5 and +6 */
  impedance: boolean().default(false),
  ...about,
}).noUnknown();

export type ModbusConfig = InferType<typeof schema>;

/** The map has no limit of its own: that of the others, s. */
const STALE_S = 15;

export const modbus: WireKind<ModbusConfig> = {
  schema,
  reads: 'modbus',
  unit: () => 'mV',
  staleSeconds: () => STALE_S,
};

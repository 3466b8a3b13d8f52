import type { ChannelConfig, ChannelTest } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { ModbusConnection } from './modbus-client.ts';
import type { Reach } from './reach.ts';
import { withMinus, type Wire } from './wire.ts';

type Wired = Exclude<ChannelConfig, { kind: 'hand' }>;

const HAND: ChannelTest = {
  ok: true,
  stage: 'done',
  message: 'Typed by hand: nothing to connect.',
  milliseconds: 0,
  raw: [],
  reading: null,
};

/**
 * Reads a channel once, on a wire of its own, and says how far it came. Never throws.
 *
 * @param wireTo opens the wire; over a connection of its own, where the protocol shares connections
 * @param seconds that never run back
 */
export async function tryChannel(
  config: ChannelConfig,
  wireTo: (config: Wired, own: ModbusConnection | null) => Wire,
  reach: Reach,
  seconds: () => number,
): Promise<ChannelTest> {
  if (config.kind === 'hand') return HAND;
  const begun = seconds();
  const modbus = config.kind === 'modbus' || config.kind === 'modbus-map';
  const own = modbus ? new ModbusConnection(config.host, config.port, config.unitId, reach) : null;
  const wire = wireTo(config, own);
  const milliseconds = () => Math.round(1000 * (seconds() - begun));
  try {
    const { raw, signal, unit, temperatureC, impedance = null } = await wire.read();
    const message = withMinus(`It answers: ${figure(signal, unit)} ${unit} at ${temperatureC.toFixed(1)} °C.`);
    const reading = { signal, unit, temperatureC, impedance };
    return { ok: true, stage: 'done', message, milliseconds: milliseconds(), raw, reading };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const away = error.code === 'device-unreachable' || error.code === 'device-fault';
    const stage = away ? error.facts.stage : 'read';
    return { ok: false, stage, message: error.message, milliseconds: milliseconds(), raw: [], reading: null };
  } finally {
    wire.close();
    own?.close();
  }
}

/** A figure as the test says it: a tenth of a millivolt, or four places of what is small. */
const figure = (value: number, unit: string) =>
  unit === 'mV' || Math.abs(value) >= 10 ? value.toFixed(1) : String(Number(value.toPrecision(4)));

import type { ChannelConfig, ChannelTest } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { ModbusConnections } from './wires/modbus-connections.ts';
import { readerOf } from './wires/readers.ts';
import type { Ways } from './wires/wire-reader.ts';
import { withMinus } from './wires/wire.ts';

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
 * @param ways what its wire may use; over connections of its own
 * @param seconds that never run back
 */
export async function tryChannel(config: ChannelConfig, ways: Ways, seconds: () => number): Promise<ChannelTest> {
  const reader = readerOf(config);
  if (!reader) return HAND;
  const begun = seconds();
  const connections = new ModbusConnections(ways.reach);
  const wire = reader.open(config, { ...ways, connections });
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
    connections.close();
  }
}

/** A figure as the test says it: a tenth of a millivolt, or four places of what is small. */
const figure = (value: number, unit: string) =>
  unit === 'mV' || Math.abs(value) >= 10 ? value.toFixed(1) : String(Number(value.toPrecision(4)));

import type { ChannelConfig, ChannelTest, SurveyView } from '@frustum/contract';
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

/**
 * Looks what a device has to offer, on a wire of its own. Never throws.
 *
 * @param shows what its display shows just now
 */
export async function surveyChannel(config: ChannelConfig, ways: Ways, shows: number | null): Promise<SurveyView> {
  const connections = new ModbusConnections(ways.reach);
  const wire = readerOf(config)?.open(config, { ...ways, connections });
  try {
    if (!wire?.survey) return { ok: false, message: 'This way has one figure only: read it once.', places: [] };
    const places = (await wire.survey(shows)).map(({ fits, ...place }) => ({ ...place, fits: fits !== null }));
    const fitting = places.filter((p) => p.fits);
    const message = withMinus(surveyed(places.length, fitting.length, shows));
    // Of hundreds of decodings only those are of use that the display confirms.
    return { ok: true, message, places: fitting.length ? fitting : places };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { ok: false, message: error.message, places: [] };
  } finally {
    wire?.close();
    connections.close();
  }
}

function surveyed(all: number, fitting: number, shows: number | null): string {
  if (!all) return 'It has no figure to offer.';
  if (shows === null) return `It has ${all} figures to offer.`;
  return fitting
    ? `${fitting} of ${all} figures are what the display shows.`
    : `None of ${all} figures is ${shows}. Look at the display again, or elsewhere in the device.`;
}

/** A figure as the test says it: a tenth of a millivolt, or four places of what is small. */
const figure = (value: number, unit: string) =>
  unit === 'mV' || Math.abs(value) >= 10 ? value.toFixed(1) : String(Number(value.toPrecision(4)));

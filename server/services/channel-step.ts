import { countsAt, type Family, type Model } from '@frustum/core';
import { unitOf, type ChannelConfig } from '@frustum/contract';

/** A wire that says nothing of its steps. */
const WIRE_STEP = 0.1;

/**
 * Smallest step of a channel, in the unit of the signal: one count of a whole-number register is worth its scale, a
 * display shows steps that count.
 */
export function channelStep(
  family: Family,
  model: Model,
  channel: ChannelConfig,
  at: { value: number; temperatureC: number },
): number {
  const shown = countsAt(family, model, at);
  if (channel.kind === 'hand' || unitOf(channel) !== model.signalUnit) return shown;
  if (channel.kind !== 'modbus-map' || channel.type === 'float32') return Math.min(WIRE_STEP, shown);
  const perCount = channel.quantity === 'mA' ? ((channel.at20 - channel.at4) / 16) * channel.scale : channel.scale;
  return Math.max(1e-4, Math.abs(perCount));
}

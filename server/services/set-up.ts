import { Refusal, withOwnTable } from '@frustum/core';
import {
  unitOf,
  type ChangeChannel,
  type ChannelConfig,
  type ChannelTest,
  type LotRow,
  type NewLot,
  type NewSensor,
  type ShelfView,
} from '@frustum/contract';
import type { Context } from '../context.ts';
import type { LotRecord } from '../store/commands/shelf.ts';

/** Smallest step of a display of 0.01 pH, mV, and of a wire that says nothing of its steps. */
const SHOWN_PH_STEP_MV = 0.59;
const WIRE_STEP = 0.1;

/** Smallest step of a channel's signal: one count of a whole-number register is worth its scale. */
function stepOf(channel: ChannelConfig): number {
  if (channel.kind === 'hand' || unitOf(channel) === 'pH') return SHOWN_PH_STEP_MV;
  if (channel.kind !== 'modbus-map' || channel.type === 'float32') return WIRE_STEP;
  const perCount = channel.quantity === 'mA' ? ((channel.at20 - channel.at4) / 16) * channel.scale : channel.scale;
  return Math.max(0.01, Math.abs(perCount));
}

/** What a pH loop can be calibrated by. @throws Refusal `channel-not-ph` */
function requirePh(channel: ChannelConfig): void {
  const unit = unitOf(channel);
  if (unit === 'mV' || unit === 'pH') return;
  throw new Refusal(
    'channel-not-ph',
    `A pH loop needs mV or pH, and this channel gives ${unit}. Check what the scaled number is.`,
    { unit },
  );
}

/**
 * Makes a channel another one; the trace and the readings go on under it.
 *
 * @throws Refusal `channel-unknown`, `channel-moved`, `channel-not-ph`, `run-open` while a run rests on it
 */
export async function changeChannel(
  context: Context,
  channelId: string,
  { channel, version }: ChangeChannel,
): Promise<{ version: number }> {
  const { store, poller } = context;
  requirePh(channel);
  const fitted = (await store.readFittedLoops()).find((f) => f.channel.id === channelId);
  const open = await store.readOpenRuns();
  if (fitted && open.some((r) => r.sensorId === fitted.sensor.id && r.status === 'open'))
    throw new Refusal('run-open', 'A run rests on this channel. End the run first, then change the channel.');
  const now = await store.changeChannel({ id: channelId, config: channel, resolution: stepOf(channel), version });
  poller.replace(channelId, channel);
  context.changed();
  return { version: now };
}

/** Tries a channel once and says how far it came. */
export function testChannel({ poller }: Context, channel: ChannelConfig): Promise<ChannelTest> {
  return poller.test(channel);
}

/** Adds site, loop, sensor and channel. @throws Refusal `loop-exists`, `unknown-standard` */
export async function addSensor(context: Context, input: NewSensor): Promise<{ loopId: string; sensorId: string }> {
  const { newId, store } = context;
  const standards = await store.readStandards();
  const unknown = input.pointSet.find((id) => !standards.some((s) => s.id === id));
  if (unknown) throw new Refusal('unknown-standard', `There is no standard “${unknown}”. Pick one from the list.`);
  requirePh(input.channel);
  const ids = { site: newId(), loop: newId(), sensor: newId(), channel: newId() };
  const { workingPh, workingC, tolerancePh, intervalDays, controls, pointSet, place } = input;
  const added = await store.addSensor({
    ids,
    siteName: input.siteName,
    timeZone: 'UTC',
    loop: {
      name: input.loopName,
      place,
      family: 'ph',
      workingValue: workingPh,
      workingC,
      tolerance: tolerancePh,
      intervalDays,
      controls,
      pointSet,
    },
    sensor: { name: input.sensorName, serial: input.serial, fittedOn: input.fittedOn },
    channel: input.channel,
    resolution: stepOf(input.channel),
  });
  context.poller.add(ids.channel, input.channel);
  context.changed();
  return added;
}

export async function readShelf({ store }: Context): Promise<ShelfView> {
  const [standards, lots] = await Promise.all([store.readStandards(), store.readLots()]);
  return {
    standards,
    lots: lots.map(rowOf),
  };
}

/** A bottle; when it prints a table of its own, that must be one of this standard. @throws Refusal as `withOwnTable` */
export async function addLot({ store, newId }: Context, input: NewLot): Promise<LotRow> {
  const standard = (await store.readStandards()).find((s) => s.id === input.standardId);
  // One without a ± of its own takes the usual one.
  const plusMinus = input.table && standard ? (input.plusMinus ?? 2 * standard.uncertainty) : null;
  if (input.table && standard) withOwnTable(standard, input.table, { plusMinus: plusMinus!, k: 2 });
  return rowOf(await store.addLot({ id: newId(), ...input, plusMinus }));
}

function rowOf({ id, standardId, label, expiresOn, openedOn, table }: LotRecord): LotRow {
  return { lotId: id, standardId, label, expiresOn, openedOn, table };
}

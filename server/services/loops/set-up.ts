import {
  conditionsFor,
  familyOf,
  modelOf,
  Refusal,
  requireReadsAs,
  requireWithin,
  requireWritten,
  withOwnTable,
  certified,
  dayIn,
  type Model,
  type Settings,
  type Standard,
  type ChannelId,
  type LoopId,
  type LotId,
  type SensorId,
  channelStep,
} from '@frustum/core';
import { readHouse } from '../house/read-house.ts';
import {
  SIGNALS,
  unitOf,
  type ChangeChannel,
  type ChangeSchedule,
  type ChannelConfig,
  type ChannelTest,
  type LotRow,
  type NewLot,
  type NewSensor,
  type ShelfView,
  type SignalUnit,
  stepsOf,
} from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop, Schedule, SensorToAdd } from '../../store/commands/places.ts';
import { changeBy } from '../house/set-up.ts';
import { requireBackup, requireGivers, type Neighbour } from './neighbours.ts';
import { fittedOf } from '../runs/runs.ts';
import type { LotRecord } from '../../store/commands/shelf.ts';

const modelAt = ({ loop }: Pick<FittedLoop, 'loop'>) => {
  const family = familyOf(loop.family);
  return {
    family,
    model: modelOf(family, loop.settings),
    at: { value: loop.workingValue, temperatureC: loop.workingC },
  };
};

/**
 * Changes the settings of a channel; its trace and readings go on under it.
 *
 * @throws Refusal `channel-unknown`, `channel-moved`, `channel-of-another-kind`, `run-open` while a run rests on it
 */
export async function changeChannel(
  context: Context,
  channelId: ChannelId,
  { channel, version }: ChangeChannel,
  by: string,
): Promise<{ version: number }> {
  const { store, poller } = context;
  const fitted = (await store.readFittedLoops()).find((f) => f.channel.id === channelId);
  if (!fitted) throw new Refusal('channel-unknown', 'There is no such channel. Go back to Margins.', { channelId });
  const { family, model, at } = modelAt(fitted);
  const config = asTyped(channel, model);
  requireReadsAs(family, model, unitOf(config));
  const open = await store.readOpenRuns();
  if (open.some((r) => r.sensorId === fitted.sensor.id && r.status === 'open'))
    throw new Refusal('run-open', 'A run rests on this channel. End the run first, then change the channel.');
  const now = await store.changeChannel({
    id: channelId,
    config,
    resolution: channelStep(family, model, stepsOf(config), at),
    version,
    change: changeBy(context, by),
  });
  poller.replace(channelId, config, fitted.sensor.fittedOn);
  context.changed();
  return { version: now };
}

/** What is typed is the potential, where there is one to be read; else the value that the display shows. */
function asTyped(channel: ChannelConfig, { signalUnit, valueUnit }: Model): ChannelConfig {
  if (channel.kind !== 'hand' || channel.quantity) return channel;
  const unit = signalUnit === 'mV' ? signalUnit : valueUnit;
  return { ...channel, quantity: unit in SIGNALS ? (unit as SignalUnit) : '' };
}

/** Tries a channel once and says how far it came. */
export function testChannel({ poller }: Context, channel: ChannelConfig): Promise<ChannelTest> {
  return poller.test(channel);
}

/** Another schedule for the loop of a sensor. @throws Refusal `sensor-unknown`, `schedule-moved` */
export async function changeSchedule(
  context: Context,
  sensorId: SensorId,
  asked: ChangeSchedule,
  by: string,
): Promise<Schedule> {
  const { loop } = await fittedOf(context, sensorId);
  const { was, intervalDays, dueBy } = asked;
  const change = changeBy(context, by);
  await context.store.changeSchedule({ loopId: loop.id, intervalDays, dueBy, was, change });
  context.changed();
  return { intervalDays, dueBy };
}

/** Adds site, loop, sensor and channel. @throws Refusal `loop-exists`, and as `sensorToAdd` */
export async function addSensor(
  context: Context,
  input: NewSensor,
  by: string,
): Promise<{ loopId: LoopId; sensorId: SensorId }> {
  const { store } = context;
  const [standards, all] = await Promise.all([store.readStandards(), store.readFittedLoops()]);
  const add = sensorToAdd(context, input, by, { standards, all });
  const added = await store.addSensor(add);
  context.poller.add(add.ids.channel, add.channel, input.fittedOn);
  context.changed();
  return added;
}

interface Around {
  readonly standards: readonly Pick<Standard, 'id'>[];
  /** loops that it may lean on */
  readonly all: readonly Neighbour[];
}

/**
 * A loop with its sensor and channel as the store takes it, checked against its family; nothing is kept.
 *
 * @throws Refusal `unknown-standard`, `out-of-range`, `giver-unfit`, `backup-unfit`, and what its settings refuse
 */
export function sensorToAdd(
  { newId, now }: Pick<Context, 'newId' | 'now'>,
  input: NewSensor,
  by: string,
  { standards, all }: Around,
): SensorToAdd {
  const unknown = input.pointSet.find((id) => !standards.some((s) => s.id === id));
  if (unknown) throw new Refusal('unknown-standard', `There is no standard “${unknown}”. Pick one from the list.`);
  const { siteName, timeZone, loopName, sensorName, serial, fittedOn, ...figures } = input;
  const { workingValue, workingC } = input;
  // What nobody has said is as usual.
  const settings = (input.settings ?? {}) as Settings;
  const family = familyOf(input.family);
  const model = modelOf(family, settings);
  const channel = asTyped(input.channel, model);
  requireReadsAs(family, model, unitOf(channel));
  const { low, high } = model.range;
  requireWithin(workingValue, low, high, 'working value', model.valueUnit, 'Type where the loop is kept.');
  const takes = given(input.takes);
  requireGivers(all, siteName, takes, conditionsFor(family, settings));
  requireBackup(all, siteName, { id: null, family: family.id, backupOf: input.backupOf });
  requireWritten(model, input);
  // What cannot be a signal here, at the temperature of the water, is refused now and not at the bench.
  model.ideal(workingValue, { temperatureC: workingC });
  const { channel: _, ...loop } = figures;
  return {
    ids: { site: newId(), loop: newId(), sensor: newId(), channel: newId(), event: newId() },
    by,
    at: new Date(now()).toISOString(),
    siteName,
    timeZone,
    loop: { ...loop, name: loopName, settings, takes, limits: given(input.limits) },
    sensor: { name: sensorName, serial, fittedOn },
    channel,
    resolution: channelStep(family, model, stepsOf(channel), { value: workingValue, temperatureC: workingC }),
  };
}

/** Only what was said: a limit that is not there is the family's. */
const given = <T extends object>(said: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) as { [K in keyof T]?: NonNullable<T[K]> }; // prettier-ignore

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
  // A table without a ± takes the usual one; a ± without a table is the certificate's, of the usual table.
  const plusMinus = input.plusMinus ?? (input.table && standard ? 2 * standard.uncertainty : null);
  if (standard && input.table) withOwnTable(standard, input.table, { plusMinus: plusMinus!, k: 2 });
  else if (standard && plusMinus !== null) certified(standard, plusMinus);
  return rowOf(await store.addLot({ id: newId(), ...input, plusMinus, usedUpOn: null }));
}

/** A bottle that is empty or withdrawn from today on. @throws Refusal `lot-unknown` */
export async function endLot(context: Context, lotId: LotId): Promise<LotRow> {
  // The shelf stands at the house's first site: today is what the clock on its wall says.
  const { all } = await readHouse(context);
  const kept = await context.store.endLot(lotId, dayIn(all[0]?.timeZone ?? 'UTC', context.now()));
  context.changed();
  return rowOf(kept);
}

function rowOf({ id, standardId, label, expiresOn, openedOn, usedUpOn, table }: LotRecord): LotRow {
  return { lotId: id, standardId, label, expiresOn, openedOn, usedUpOn, table };
}

import { Refusal } from '@frustum/core';
import type { LotRow, NewLot, NewSensor, ShelfView } from '@frustum/contract';
import type { Context } from '../context.ts';

/** Smallest step of a channel, mV: a wire gives tenths; a display of 0.01 pH is typed by hand. */
const WIRE_STEP_MV = 0.1;
const HAND_STEP_MV = 0.59;

/** Adds site, loop, sensor and channel. @throws Refusal `loop-exists`, `unknown-standard` */
export async function addSensor(context: Context, input: NewSensor): Promise<{ loopId: string; sensorId: string }> {
  const { newId, store } = context;
  const standards = await store.readStandards();
  const unknown = input.pointSet.find((id) => !standards.some((s) => s.id === id));
  if (unknown) throw new Refusal('unknown-standard', `There is no standard “${unknown}”. Pick one from the list.`);
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
      workingPh,
      workingC,
      tolerancePh,
      intervalDays,
      controls,
      pointSet,
    },
    sensor: { name: input.sensorName, serial: input.serial, fittedOn: input.fittedOn },
    channel: input.channel,
    resolutionMv: input.channel.kind === 'hand' ? HAND_STEP_MV : WIRE_STEP_MV,
  });
  context.poller.add(ids.channel, input.channel);
  context.changed();
  return added;
}

export async function readShelf({ store }: Context): Promise<ShelfView> {
  const [standards, lots] = await Promise.all([store.readStandards(), store.readLots()]);
  return {
    standards,
    lots: lots.map(({ id, standardId, label, expiresOn, openedOn }) => ({
      lotId: id,
      standardId,
      label,
      expiresOn,
      openedOn,
    })),
  };
}

export async function addLot({ store, newId }: Context, input: NewLot): Promise<LotRow> {
  const kept = await store.addLot({ id: newId(), ...input });
  return {
    lotId: kept.id,
    standardId: kept.standardId,
    label: kept.label,
    expiresOn: kept.expiresOn,
    openedOn: kept.openedOn,
  };
}

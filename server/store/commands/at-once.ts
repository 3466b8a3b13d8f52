import { eq } from 'drizzle-orm';
import type { LoopId } from '@frustum/core';
import type { Transaction } from '../database.ts';
import { loops } from '../schema/index.ts';
import { addSpare, type Spare } from './life.ts';
import { addSensor, type SensorToAdd } from './places.ts';
import { changeLoop, changeSensor } from './set-up.ts';

/** Several changes of the set-up, in their order. */
export interface ChangesAtOnce {
  readonly add: readonly SensorToAdd[];
  readonly changeLoops: readonly { readonly loopId: LoopId; readonly asked: Parameters<typeof changeLoop>[2] }[];
  readonly changeSensors: readonly {
    readonly sensorId: Parameters<typeof changeSensor>[1];
    readonly asked: Parameters<typeof changeSensor>[2];
  }[];
  readonly spares: readonly { readonly spare: Spare; readonly noted: Parameters<typeof addSpare>[2] }[];
  /** links of loops that are new: the other one may be new, too, and further down */
  readonly backups: readonly { readonly loopId: LoopId; readonly backupOf: LoopId }[];
}

/** Several changes in one: all of them, or none. @throws Refusal as its parts do */
export async function changeAtOnce(tx: Transaction, taken: ChangesAtOnce): Promise<void> {
  for (const add of taken.add) await addSensor(tx, add);
  for (const { loopId, backupOf } of taken.backups)
    await tx.update(loops).set({ backupOf }).where(eq(loops.id, loopId));
  for (const { loopId, asked } of taken.changeLoops) await changeLoop(tx, loopId, asked);
  for (const { sensorId, asked } of taken.changeSensors) await changeSensor(tx, sensorId, asked);
  for (const { spare, noted } of taken.spares) await addSpare(tx, spare, noted);
}

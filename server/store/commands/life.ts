import { and, asc, desc, eq, isNull, max, or } from 'drizzle-orm';
import {
  familyOf,
  Refusal,
  requireFittable,
  requireMoment,
  type LifeEventKind,
  type LoopId,
  type OnTheMove,
  type SensorId,
} from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { loops, runs, sensorEvents, sensors, services } from '../schema/index.ts';
import { note, requireVersion, type SetUpChange } from './set-up.ts';

export type SensorRecord = typeof sensors.$inferSelect;
export type LifeEvent = typeof sensorEvents.$inferSelect;

/** Where a sensor goes. */
export type Destination = { readonly to: 'loop'; readonly loopId: LoopId } | { readonly to: 'wet' | 'dry' | 'retired' };

export interface SensorMove {
  readonly sensorId: SensorId;
  readonly version: number;
  /** when it was done, ISO 8601 */
  readonly at: string;
  readonly destination: Destination;
  /** where the sensor goes that is fitted there until now */
  readonly displaced: 'wet' | 'dry' | 'retired' | null;
  /** the sensor that was seen there; null where nobody has said */
  readonly instead: SensorId | null;
  /** somebody says that it has soaked long enough */
  readonly soaked: boolean;
  readonly change: SetUpChange;
  /** makes ids */
  readonly ids: readonly string[];
}

/** A sensor, wherever it is, with the events of its life in the order in which they were written down. */
export async function readLife(db: Reader, sensorId: SensorId) {
  const [sensor] = await db.select().from(sensors).where(eq(sensors.id, sensorId));
  if (!sensor) return null;
  const events = await db
    .select({ event: sensorEvents, loopName: loops.name })
    .from(sensorEvents)
    .leftJoin(loops, eq(sensorEvents.loopId, loops.id))
    .where(eq(sensorEvents.sensorId, sensorId))
    .orderBy(asc(sensorEvents.seq));
  return { sensor, events: events.map(({ event, loopName }) => ({ ...event, loopName: loopName ?? '' })) };
}

export type Spare = Pick<SensorRecord, 'id' | 'name' | 'serial' | 'family' | 'model' | 'boughtOn' | 'soakingSince'> & {
  readonly storage: 'wet' | 'dry';
};

/** A sensor on the shelf. @throws Refusal `sensor-exists` when one of that name and serial is there */
export async function addSpare(
  tx: Transaction,
  spare: Spare,
  { eventId, by, at }: { readonly eventId: string; readonly by: string; readonly at: string },
): Promise<SensorId> {
  const [twin] = await tx
    .select({ id: sensors.id })
    .from(sensors)
    .where(and(eq(sensors.name, spare.name), eq(sensors.serial, spare.serial), isNull(sensors.retiredAt)));
  if (twin)
    throw new Refusal(
      'sensor-exists',
      `There is a sensor “${spare.name}” with this serial already. Give it another name, or its serial.`,
      { name: spare.name },
    );
  await tx.insert(sensors).values({ ...spare, loopId: null, fittedOn: at.slice(0, 10) });
  const kind = spare.storage === 'wet' ? 'stored-wet' : 'stored-dry';
  await tx.insert(sensorEvents).values({ id: eventId, sensorId: spare.id, at, kind, by, notedAt: at });
  return spare.id;
}

/** What is known of a sensor that is to be moved. @throws Refusal `sensor-unknown`, `run-open` */
async function onTheMove(tx: Transaction, sensorId: SensorId): Promise<{ record: SensorRecord; move: OnTheMove }> {
  const [record] = await tx.select().from(sensors).where(eq(sensors.id, sensorId)).for('update');
  if (!record) throw new Refusal('sensor-unknown', 'There is no such sensor. Look at Set-up again.', { sensorId });
  const [open] = await tx
    .select({ id: runs.id, status: runs.status })
    .from(runs)
    .where(and(eq(runs.sensorId, sensorId), or(eq(runs.status, 'open'), eq(runs.holding, true))));
  if (open)
    throw new Refusal(
      'run-open',
      open.status === 'open'
        ? `${record.name} has a run under way. End or abandon it first, then move the sensor.`
        : `Something is still on hold for ${record.name}. Release it first, then move the sensor.`,
      { runId: open.id },
    );
  const [run] = await tx.select({ at: max(runs.endedAt) }).from(runs).where(eq(runs.sensorId, sensorId)); // prettier-ignore
  const [event] = await tx
    .select({ at: sensorEvents.at })
    .from(sensorEvents)
    .where(eq(sensorEvents.sensorId, sensorId))
    .orderBy(desc(sensorEvents.seq))
    .limit(1);
  const times = [run?.at, event?.at].flatMap((at) => (at ? [Date.parse(at)] : []));
  return {
    record,
    move: {
      name: record.name,
      family: record.family,
      boughtOn: record.boughtOn,
      lastMs: times.length ? Math.max(...times) : null,
      soakingSinceMs: record.soakingSince === null ? null : Date.parse(record.soakingSince),
      retired: record.retiredAt !== null,
    },
  };
}

const KIND = { wet: 'stored-wet', dry: 'stored-dry', retired: 'retired' } as const;

/** Writes the lives of sensors in one transaction. */
class Mover {
  private readonly tx: Transaction;
  private readonly at: string;
  private readonly change: SetUpChange;
  private readonly ids: string[];

  constructor(tx: Transaction, { at, change, ids }: Pick<SensorMove, 'at' | 'change' | 'ids'>) {
    this.tx = tx;
    this.at = at;
    this.change = change;
    this.ids = [...ids];
  }

  private async write(sensorId: SensorId, kind: LifeEventKind, loopId: LoopId | null): Promise<void> {
    const { by, why, at: notedAt } = this.change;
    await this.tx
      .insert(sensorEvents)
      .values({ id: this.ids.pop()!, sensorId, at: this.at, kind, loopId, by, why, notedAt });
  }

  private async put(of: SensorRecord, to: Partial<SensorRecord>): Promise<void> {
    await this.tx
      .update(sensors)
      .set({ ...to, version: of.version + 1 })
      .where(eq(sensors.id, of.id));
    const places = { from: await placeOf(this.tx, of), to: await placeOf(this.tx, { ...of, ...to }) };
    const change = { ...this.change, id: this.ids.pop()! };
    await note(this.tx, 'sensor', of.id, [{ field: 'place', ...places }], change);
  }

  /** Puts a sensor away: out of its loop, then where it is kept. */
  async away(of: SensorRecord, to: 'wet' | 'dry' | 'retired'): Promise<void> {
    if (of.loopId !== null) await this.write(of.id, 'taken-out', of.loopId);
    else if (of.retiredAt !== null) await this.write(of.id, 'brought-back', null);
    await this.write(of.id, KIND[to], null);
    const { by, why, at: notedAt } = this.change;
    // Drying out changes a membrane: the drift engine forgets what it knew of it.
    if (to === 'dry')
      await this.tx
        .insert(services)
        .values({ id: this.ids.pop()!, sensorId: of.id, at: this.at, kind: 'stored dry', note: why, by, notedAt })
        .onConflictDoNothing();
    const retiredAt = to === 'retired' ? this.at : null;
    const storage = to === 'retired' ? ('' as const) : to;
    await this.put(of, { loopId: null, fittedAt: null, storage, retiredAt, soakingSince: null });
  }

  async fit(of: SensorRecord, loopId: LoopId): Promise<void> {
    if (of.loopId !== null) await this.write(of.id, 'taken-out', of.loopId);
    await this.write(of.id, 'fitted', loopId);
    const fittedOn = this.at.slice(0, 10);
    await this.put(of, { loopId, fittedAt: this.at, fittedOn, storage: '', soakingSince: null });
  }
}

/**
 * Moves a sensor to a loop, onto the shelf or out of use, and the sensor that it displaces; all of it or nothing.
 *
 * @returns the version that the sensor has now
 * @throws Refusal `sensor-unknown`, `set-up-moved`, `run-open`, `loop-unknown`, `place-taken`, and as `requireMoment`,
 * `requireFittable`
 */
export async function moveSensor(tx: Transaction, asked: SensorMove): Promise<number> {
  const { sensorId, version, at, destination, displaced, soaked, change } = asked;
  const [atMs, nowMs] = [Date.parse(at), Date.parse(change.at)];
  const { record, move } = await onTheMove(tx, sensorId);
  requireVersion(record, version);
  requireMoment(move, atMs, nowMs);
  const mover = new Mover(tx, asked);
  if (destination.to !== 'loop') {
    await mover.away(record, destination.to);
    return version + 1;
  }
  const { loopId } = destination;
  const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId)).for('update');
  if (!loop || loop.archivedAt !== null)
    throw new Refusal('loop-unknown', 'There is no such loop in use. Look at Set-up again.', { loopId });
  const { name, soak } = familyOf(loop.family);
  requireFittable(move, { name: loop.name, family: loop.family, familyName: name }, soak, atMs, soaked);
  const [present] = await tx.select({ id: sensors.id }).from(sensors).where(eq(sensors.loopId, loopId));
  if (present?.id === sensorId)
    throw new Refusal('place-taken', `${record.name} is fitted at ${loop.name} already.`, { sensor: record.name });
  if (asked.instead !== null && present?.id !== asked.instead)
    throw new Refusal('set-up-moved', `Another sensor was put at ${loop.name} meanwhile. Look at it again, then move this one.`, { version }); // prettier-ignore
  if (present) {
    const other = await onTheMove(tx, present.id);
    if (displaced === null)
      throw new Refusal(
        'place-taken',
        `${other.record.name} is fitted at ${loop.name}. Say where it goes: onto the shelf, wet or dry, or out of use.`,
        { sensor: other.record.name },
      );
    requireMoment(other.move, atMs, nowMs);
    await mover.away(other.record, displaced);
  } else await requireEmptySince(tx, loop, atMs);
  await mover.fit(record, loopId);
  return version + 1;
}

/** Two sensors cannot have been at one loop at once. @throws Refusal `moved-later` */
async function requireEmptySince(tx: Transaction, { id, name }: typeof loops.$inferSelect, atMs: number) {
  const [last] = await tx
    .select({ at: max(sensorEvents.at) })
    .from(sensorEvents)
    .where(eq(sensorEvents.loopId, id));
  const lastMs = last?.at == null ? -Infinity : Date.parse(last.at);
  if (atMs >= lastMs) return;
  const lastAt = new Date(lastMs).toISOString();
  const shown = lastAt.slice(0, 16).replace('T', ' ');
  throw new Refusal('moved-later', `Another sensor was at ${name} until ${shown} UTC. Give a later moment.`, {
    lastAt,
  });
}

/** Where a sensor is, in the words of its record of changes. */
async function placeOf(tx: Transaction, { loopId, storage, retiredAt }: SensorRecord): Promise<string> {
  if (loopId === null) return retiredAt === null ? `the shelf, ${storage}` : 'retired';
  const [loop] = await tx.select({ name: loops.name }).from(loops).where(eq(loops.id, loopId));
  return loop?.name ?? '';
}

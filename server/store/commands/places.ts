import { and, asc, eq, isNull } from 'drizzle-orm';
import { channelSchema, readsOf, type ChannelConfig } from '@frustum/contract';
import { Refusal, type DueBy, type LoopId, type SensorId, type Fitted, type Reads } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { channels, loops, sensorEvents, sensors, sites } from '../schema/index.ts';
import { changedFields, inUse, note, type SetUpChange } from './set-up.ts';

/** A loop with what is fitted at it: the row that everything starts from. */
export interface FittedLoop extends Fitted {
  readonly loop: typeof loops.$inferSelect;
  readonly sensor: typeof sensors.$inferSelect & { readonly fittedMs: number | null };
  readonly channel: typeof channels.$inferSelect & { readonly reads: Reads };
}

/** Every loop that is in use, with what is fitted at it. */
export async function readFittedLoops(db: Reader): Promise<FittedLoop[]> {
  const rows = await db
    .select()
    .from(loops)
    .innerJoin(sites, eq(loops.siteId, sites.id))
    .innerJoin(sensors, eq(sensors.loopId, loops.id))
    .innerJoin(channels, eq(channels.loopId, loops.id))
    .where(inUse)
    .orderBy(asc(loops.name), asc(loops.id));
  return rows.map((r) => ({
    loop: r.loops,
    siteName: r.sites.name,
    timeZone: r.sites.timeZone,
    sensor: { ...r.sensors, fittedMs: r.sensors.fittedAt === null ? null : Date.parse(r.sensors.fittedAt) },
    channel: channelOf(r.channels),
  }));
}

/** A channel kept by an older Frustum lacks what was added since: the usual is filled in. */
function channelOf(row: typeof channels.$inferSelect): FittedLoop['channel'] {
  const config = channelSchema.cast(row.config);
  return { ...row, config, reads: readsOf(config) };
}

export interface SensorToAdd {
  readonly ids: Readonly<Record<'site' | 'loop' | 'sensor' | 'channel' | 'event', string>>;
  /** who sets it up, and when, ISO 8601 */
  readonly by: string;
  readonly at: string;
  readonly siteName: string;
  readonly timeZone: string;
  readonly loop: Omit<typeof loops.$inferInsert, 'id' | 'siteId' | 'createdAt'>;
  readonly sensor: {
    readonly name: string;
    readonly serial: string;
    readonly fittedOn: string;
    readonly model?: string;
    readonly boughtOn?: string | null;
  };
  readonly channel: ChannelConfig;
  readonly resolution: number;
}

/**
 * Adds a loop with its sensor and channel, and its site when the name is new.
 *
 * @throws Refusal `loop-exists` when the site has a loop of that name
 */
export async function addSensor(tx: Transaction, add: SensorToAdd): Promise<{ loopId: LoopId; sensorId: SensorId }> {
  const [known] = await tx.select({ id: sites.id }).from(sites).where(eq(sites.name, add.siteName));
  const siteId = known?.id ?? add.ids.site;
  if (!known) await tx.insert(sites).values({ id: siteId, name: add.siteName, timeZone: add.timeZone });
  const [twin] = await tx
    .select({ id: loops.id })
    .from(loops)
    .where(and(eq(loops.siteId, siteId), eq(loops.name, add.loop.name)));
  if (twin) {
    throw new Refusal(
      'loop-exists',
      `${add.siteName} has a loop “${add.loop.name}” already. Names stay unique: pick another.`,
      {
        name: add.loop.name,
      },
    );
  }
  await tx.insert(loops).values({ ...add.loop, id: add.ids.loop, siteId });
  await tx.insert(sensors).values({ ...add.sensor, id: add.ids.sensor, loopId: add.ids.loop, family: add.loop.family });
  await tx.insert(sensorEvents).values({
    id: add.ids.event,
    sensorId: add.ids.sensor,
    at: `${add.sensor.fittedOn}T00:00:00Z`,
    kind: 'fitted',
    loopId: add.ids.loop,
    by: add.by,
    notedAt: add.at,
  });
  await tx.insert(channels).values({
    id: add.ids.channel,
    loopId: add.ids.loop,
    kind: add.channel.kind,
    config: add.channel,
    resolution: add.resolution,
  });
  return { loopId: add.ids.loop, sensorId: add.ids.sensor };
}

/** When a loop is due. */
export interface Schedule {
  readonly intervalDays: number;
  readonly dueBy: DueBy;
}

/** Changes a loop's schedule. @throws Refusal `schedule-moved` with what it is, when somebody was faster */
export async function changeSchedule(
  tx: Transaction,
  asked: Schedule & { readonly loopId: LoopId; readonly was: Schedule; readonly change: SetUpChange },
): Promise<void> {
  const { loopId, intervalDays, dueBy, was, change } = asked;
  const [known] = await tx.select().from(loops).where(eq(loops.id, loopId)).for('update');
  if (!known) throw new Refusal('loop-unknown', 'There is no such loop. Go back to Margins.', { loopId });
  if (known.intervalDays !== was.intervalDays || known.dueBy !== was.dueBy) {
    throw new Refusal(
      'schedule-moved',
      'Somebody has changed this schedule meanwhile. Look at it again, then change it.',
      {
        intervalDays: known.intervalDays,
        dueBy: known.dueBy,
      },
    );
  }
  await tx
    .update(loops)
    .set({ intervalDays, dueBy, version: known.version + 1 })
    .where(eq(loops.id, loopId));
  await note(tx, 'loop', loopId, changedFields(known, { intervalDays, dueBy }), change);
}

/** Loops in use where nothing is fitted. */
export const readEmptyLoops = (db: Reader): Promise<{ loopId: LoopId; loopName: string }[]> =>
  db
    .select({ loopId: loops.id, loopName: loops.name })
    .from(loops)
    .innerJoin(sites, eq(loops.siteId, sites.id))
    .leftJoin(sensors, eq(sensors.loopId, loops.id))
    .where(and(inUse, isNull(sensors.id)))
    .orderBy(asc(loops.name), asc(loops.id));

import { and, asc, desc, eq, isNull, ne } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { Refusal, type LoopId, type SensorId, type SiteId } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { readShelved, readShelvedSince } from './shelved.ts';
import {
  channels,
  loops,
  runs,
  sensorEvents,
  sensors,
  setUpChanges,
  sites,
  type FieldChange,
} from '../schema/index.ts';

export type ChangeRecord = typeof setUpChanges.$inferSelect;
/** Who changed it, when and why. */
export type SetUpChange = Pick<ChangeRecord, 'id' | 'at' | 'by' | 'why'>;

/** Everything that was ever set up, also what is archived. */
export async function readSetUp(db: Reader) {
  const [allSites, rows, withRuns, shelved, shelvedSince] = await Promise.all([
    db.select().from(sites).orderBy(asc(sites.name)),
    db
      .select()
      .from(loops)
      .leftJoin(sensors, eq(sensors.loopId, loops.id))
      .innerJoin(channels, eq(channels.loopId, loops.id))
      .orderBy(asc(loops.position), asc(loops.name), asc(loops.id)),
    db.selectDistinct({ loopId: runs.loopId }).from(runs),
    readShelved(db),
    readShelvedSince(db),
  ]);
  const hasRuns = new Set(withRuns.map((r) => r.loopId));
  return {
    sites: allSites,
    /** not fitted anywhere, with since when */
    shelved: shelved.map((sensor) => ({ sensor, since: shelvedSince.get(sensor.id) ?? sensor.createdAt })),
    loops: rows.map((r) => ({
      loop: r.loops,
      sensor: r.sensors,
      channel: r.channels,
      hasRuns: hasRuns.has(r.loops.id),
    })),
  };
}

/** What was changed at some place of the set-up, the last change first. */
export const readChanges = (db: Reader, subjectId: string): Promise<ChangeRecord[]> =>
  db.select().from(setUpChanges).where(eq(setUpChanges.subjectId, subjectId)).orderBy(desc(setUpChanges.seq));

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** The fields that become others, with what they were. */
export const changedFields = (was: object, to: object): FieldChange[] =>
  Object.entries(to)
    .map(([field, value]): FieldChange => ({
      field,
      from: (was as Record<string, unknown>)[field] ?? null,
      to: value ?? null,
    }))
    .filter(({ from, to: next }) => !same(from, next))
    .sort((a, b) => a.field.localeCompare(b.field));

interface Versioned {
  readonly version: number;
}

/** @throws Refusal `set-up-moved` when somebody was faster */
export function requireVersion({ version }: Versioned, asked: number): void {
  if (version !== asked)
    throw new Refusal('set-up-moved', 'Somebody has changed this meanwhile. Look at it again, then change it.', {
      version,
    });
}

/** Writes what became another into the record. */
export async function note(
  tx: Transaction,
  of: ChangeRecord['of'],
  subjectId: string,
  fields: readonly FieldChange[],
  change: SetUpChange,
): Promise<void> {
  if (fields.length) await tx.insert(setUpChanges).values({ ...change, of, subjectId, fields });
}

interface Asked<T> {
  readonly version: number;
  readonly to: Partial<T>;
  readonly change: SetUpChange;
}

/** Writes the change into its row and into the record, in one; nothing where nothing becomes another. */
async function put(
  tx: Transaction,
  table: PgTable & { readonly id: PgColumn },
  of: ChangeRecord['of'],
  known: Versioned & { readonly id: string },
  { version, to, change }: Asked<object>,
): Promise<{ version: number; fields: readonly FieldChange[] }> {
  requireVersion(known, version);
  const fields = changedFields(known, to);
  if (!fields.length) return { version, fields };
  await tx
    .update(table)
    .set({ ...to, version: version + 1 })
    .where(eq(table.id, known.id));
  await note(tx, of, known.id, fields, change);
  return { version: version + 1, fields };
}

type Loop = typeof loops.$inferSelect;
type LoopChange = Asked<Omit<Loop, 'id' | 'siteId' | 'version' | 'createdAt'>>;

/** Changes a loop. @throws Refusal `loop-unknown`, `loop-exists`, `set-up-moved`, `run-open` when it is archived under a run */
export async function changeLoop(tx: Transaction, loopId: LoopId, asked: LoopChange) {
  const [known] = await tx.select().from(loops).where(eq(loops.id, loopId)).for('update');
  if (!known) throw new Refusal('loop-unknown', 'There is no such loop. Go back to Margins.', { loopId });
  if (asked.to.name !== undefined) await requireFreeName(tx, known, asked.to.name);
  if (asked.to.archivedAt) await requireNoRun(tx, eq(runs.loopId, loopId));
  return put(tx, loops, 'loop', known, asked);
}

async function requireFreeName(tx: Transaction, { id, siteId }: Loop, name: string): Promise<void> {
  const [twin] = await tx
    .select({ id: loops.id, archivedAt: loops.archivedAt })
    .from(loops)
    .where(and(eq(loops.siteId, siteId), eq(loops.name, name), ne(loops.id, id)));
  if (!twin) return;
  const where = twin.archivedAt ? ', archived' : '';
  throw new Refusal('loop-exists', `There is a loop “${name}” already${where}. Names stay unique: pick another.`, {
    name,
  });
}

/** @throws Refusal `run-open` */
async function requireNoRun(tx: Transaction, which: ReturnType<typeof eq>): Promise<void> {
  const open = await tx.select({ status: runs.status, holding: runs.holding }).from(runs).where(which);
  if (open.some((r) => r.status === 'open'))
    throw new Refusal('run-open', 'A run is open here. End or abandon it first, then archive the loop.');
  if (open.some((r) => r.holding))
    throw new Refusal('run-open', 'Something is still on hold here. Release it first, then archive the loop.');
}

type Site = typeof sites.$inferSelect;

/** Changes a site. @throws Refusal `site-unknown`, `site-exists`, `set-up-moved`, `run-open` when it is archived under a run */
export async function changeSite(
  tx: Transaction,
  siteId: SiteId,
  asked: Asked<Omit<Site, 'id' | 'version' | 'createdAt'>>,
) {
  const [known] = await tx.select().from(sites).where(eq(sites.id, siteId)).for('update');
  if (!known) throw new Refusal('site-unknown', 'There is no such site. Look at Set-up again.', { siteId });
  const { name, archivedAt } = asked.to;
  if (name !== undefined) {
    const [twin] = await tx
      .select({ id: sites.id })
      .from(sites)
      .where(and(eq(sites.name, name), ne(sites.id, siteId)));
    if (twin)
      throw new Refusal('site-exists', `There is a site “${name}” already. Names stay unique: pick another.`, { name });
  }
  if (archivedAt) {
    const ofSite = await tx.select({ id: loops.id }).from(loops).where(eq(loops.siteId, siteId));
    for (const { id } of ofSite) await requireNoRun(tx, eq(runs.loopId, id));
  }
  return put(tx, sites, 'site', known, asked);
}

type Sensor = typeof sensors.$inferSelect;

/** Changes a sensor. @throws Refusal `sensor-unknown`, `set-up-moved`; `stands` for the day of a move */
export async function changeSensor(
  tx: Transaction,
  sensorId: SensorId,
  asked: Asked<Pick<Sensor, 'name' | 'serial' | 'fittedOn' | 'model' | 'boughtOn' | 'soakingSince'>> & {
    /** of the line in its life that a corrected day of fitting makes */
    readonly eventId: string;
  },
) {
  const [known] = await tx.select().from(sensors).where(eq(sensors.id, sensorId)).for('update');
  if (!known) throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins.', { sensorId });
  const { fittedOn } = asked.to;
  const isOther = fittedOn !== undefined && fittedOn !== known.fittedOn;
  if (isOther && known.fittedAt !== null)
    throw new Refusal('stands', `It came here by a move on ${known.fittedOn}; that day stands. Say in a note what was otherwise.`, { at: known.fittedAt }); // prettier-ignore
  const kept = await put(tx, sensors, 'sensor', known, asked);
  // Its life begins on the corrected day: the later of two lines about one fitting counts.
  if (isOther && known.loopId !== null)
    await tx.insert(sensorEvents).values({ id: asked.eventId, sensorId, at: `${fittedOn}T00:00:00Z`, kind: 'fitted', loopId: known.loopId, by: asked.change.by, why: asked.change.why, notedAt: asked.change.at }); // prettier-ignore
  return kept;
}

/** An order of one's own; loops that are not named keep their place behind. It is no change of the house, and has no record. */
export async function orderLoops(tx: Transaction, loopIds: readonly LoopId[]): Promise<void> {
  for (const [i, id] of loopIds.entries())
    await tx
      .update(loops)
      .set({ position: i - loopIds.length })
      .where(eq(loops.id, id));
}

/** In use: neither it nor its site is archived. */
export const inUse = and(isNull(loops.archivedAt), isNull(sites.archivedAt));

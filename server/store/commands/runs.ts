import { and, asc, count, desc, eq, gte, inArray, isNotNull, max, ne, or, sql } from 'drizzle-orm';
import { alias, type PgColumn } from 'drizzle-orm/pg-core';
import {
  EVENT_VERSION,
  lifted,
  Refusal,
  type RunEvent,
  type RunOutcome,
  type LoopId,
  type RunId,
  type SensorId,
} from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { loops, runEvents, runs, sensors } from '../schema/index.ts';

export type RunRecord = typeof runs.$inferSelect;

export async function readRun(db: Reader, runId: RunId): Promise<RunRecord | null> {
  const [row] = await db.select().from(runs).where(eq(runs.id, runId));
  return row ?? null;
}

export async function readRunsOf(db: Reader, sensorId: SensorId): Promise<RunRecord[]> {
  return db.select().from(runs).where(eq(runs.sensorId, sensorId)).orderBy(desc(runs.startedAt), asc(runs.id));
}

/** Finished runs with an outcome, oldest first: what the cones are made of. */
export async function readOutcomes(
  db: Reader,
): Promise<{ sensorId: SensorId; loopId: LoopId; endedAt: string; outcome: RunOutcome }[]> {
  const rows = await db
    .select({ sensorId: runs.sensorId, loopId: runs.loopId, endedAt: runs.endedAt, outcome: runs.outcome })
    .from(runs)
    .where(and(eq(runs.status, 'closed'), isNotNull(runs.outcome)))
    // Of two at one moment always the same one first: sums of the fleet would differ in their last digit.
    .orderBy(asc(runs.endedAt), asc(runs.id));
  return rows.flatMap((r) =>
    r.endedAt && r.outcome ? [{ sensorId: r.sensorId, loopId: r.loopId, endedAt: r.endedAt, outcome: r.outcome }] : [],
  );
}

/** Changes whenever `readOutcomes` would give something else: how many there are, and when the last one ended. */
export async function readOutcomesMark(db: Reader): Promise<string> {
  const [row] = await db
    .select({ count: count(), last: max(runs.endedAt) })
    .from(runs)
    .where(and(eq(runs.status, 'closed'), isNotNull(runs.outcome)));
  return `${row?.count ?? 0} ${row?.last ?? ''}`;
}

/** Runs that want attention: open, or ended with the hold still on. */
export async function readOpenRuns(db: Reader): Promise<RunRecord[]> {
  return db
    .select()
    .from(runs)
    .where(or(eq(runs.status, 'open'), eq(runs.holding, true)))
    .orderBy(asc(runs.startedAt));
}

/** A time in which a sensor was at the bench: for its own run, or because a run of a sensor on its body went on. */
interface BenchTime {
  readonly sensorId: SensorId;
  readonly fromAt: string;
  /** null while it lasts */
  readonly toAt: string | null;
}

/** What a loop’s sensor hangs on, as the core has it (`bodyOf`). */
const bodyIn = (of: { readonly body: PgColumn; readonly referenceGroup: PgColumn }) =>
  sql<string>`coalesce(nullif(${of.body}, ''), ${of.referenceGroup})`;

/** Times at the bench that had not ended by a moment, of every sensor. */
export async function readBenchTimes(db: Reader, since: string): Promise<BenchTime[]> {
  const mates = alias(loops, 'mates');
  const others = alias(sensors, 'others');
  const columns = { fromAt: runs.startedAt, toAt: runs.endedAt, outcome: runs.outcome, status: runs.status };
  const rows = await db
    .select({ sensorId: runs.sensorId, otherId: others.id, ...columns })
    .from(runs)
    .innerJoin(loops, eq(runs.loopId, loops.id))
    .leftJoin(mates, and(ne(bodyIn(loops), ''), eq(mates.siteId, loops.siteId), eq(bodyIn(mates), bodyIn(loops))))
    .leftJoin(others, eq(others.loopId, mates.id))
    .where(or(eq(runs.status, 'open'), gte(runs.endedAt, since)));
  return rows
    .filter(({ outcome }) => outcome?.kind !== 'grab-sample')
    .flatMap(({ sensorId, otherId, fromAt, toAt, status }) => {
      const time = { fromAt, toAt: status === 'open' ? null : toAt };
      const own = { sensorId, ...time };
      return otherId === null || otherId === sensorId ? [own] : [own, { sensorId: otherId, ...time }];
    });
}

/**
 * Sensors that are at the bench, and those that came from there since a moment, with when they did: of a sensor's runs the latest
 * end, or “now”. A grab sample leaves the probe in its water. Sensors on one body leave the water
 * together.
 */
export async function readBenchedSince(db: Reader, since: string): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .select({ sensorId: runs.sensorId, endedAt: runs.endedAt, outcome: runs.outcome })
    .from(runs)
    .where(or(eq(runs.status, 'open'), gte(runs.endedAt, since)))
    .orderBy(asc(runs.endedAt));
  const benched = new Map<string, string>();
  for (const { sensorId, endedAt, outcome } of rows)
    if (outcome?.kind !== 'grab-sample' && benched.get(sensorId) !== 'now') benched.set(sensorId, endedAt ?? 'now');
  if (!benched.size) return benched;
  const grouped = await db
    .select({ sensorId: sensors.id, group: sql<string>`${loops.siteId} || ${bodyIn(loops)}` })
    .from(sensors)
    .innerJoin(loops, eq(sensors.loopId, loops.id))
    .where(ne(bodyIn(loops), ''));
  const later = (a: string | undefined, b: string) =>
    a === undefined || (a !== 'now' && (b === 'now' || b > a)) ? b : a;
  const ofGroup = new Map<string, string>();
  for (const { sensorId, group } of grouped) {
    const at = benched.get(sensorId);
    if (at !== undefined) ofGroup.set(group, later(ofGroup.get(group), at));
  }
  for (const { sensorId, group } of grouped) {
    const at = ofGroup.get(group);
    if (at !== undefined) benched.set(sensorId, later(benched.get(sensorId), at));
  }
  return benched;
}

/** Events of runs in today’s words, whatever version they were written in. */
export async function readEvents(db: Reader, runIds: readonly RunId[]): Promise<(RunEvent & { runId: RunId })[]> {
  if (!runIds.length) return [];
  const rows = await db
    .select()
    .from(runEvents)
    .where(inArray(runEvents.runId, [...runIds]))
    .orderBy(asc(runEvents.runId), asc(runEvents.seq));
  return rows.map((row) => ({ runId: row.runId, ...lifted(row) }));
}

const rowOf = (runId: RunId, { version = EVENT_VERSION, ...event }: RunEvent) => ({ ...event, runId, version });

/** Opens a run with its first event. @throws Refusal `run-open` when the sensor has one already */
export async function openRun(
  tx: Transaction,
  run: { id: string; sensorId: SensorId; loopId: LoopId },
  first: RunEvent,
): Promise<void> {
  const [open] = await tx
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.sensorId, run.sensorId), eq(runs.status, 'open')));
  if (open) {
    throw new Refusal('run-open', 'This sensor has a run under way. Go on with it, or abandon it with a reason.', {
      runId: open.id,
    });
  }
  await tx.insert(runs).values({ ...run, status: 'open', startedAt: first.at });
  await tx.insert(runEvents).values(rowOf(run.id, first));
}

interface Appending {
  readonly runId: RunId;
  /** last sequence number that the events were judged on */
  readonly afterSeq: number;
  readonly events: readonly RunEvent[];
  /** what the run has become by them */
  readonly derived: Pick<RunRecord, 'status' | 'holding' | 'endedAt' | 'outcome'>;
}

/**
 * Adds events and what is derived from them, in one go.
 *
 * @returns false when somebody else was faster: read again, judge again
 */
export async function appendEvents(tx: Transaction, { runId, afterSeq, events, derived }: Appending): Promise<boolean> {
  // Locks the run: two devices that append at once come one after the other.
  const [run] = await tx.select({ id: runs.id }).from(runs).where(eq(runs.id, runId)).for('update');
  if (!run) throw new Refusal('run-unknown', 'There is no such run. Go back to Margins.', { runId });
  const [last] = await tx
    .select({ seq: runEvents.seq })
    .from(runEvents)
    .where(eq(runEvents.runId, runId))
    .orderBy(desc(runEvents.seq))
    .limit(1);
  if ((last?.seq ?? 0) !== afterSeq) return false;
  await tx.insert(runEvents).values(events.map((e) => rowOf(runId, e)));
  await tx.update(runs).set(derived).where(eq(runs.id, runId));
  return true;
}

/** Finished runs of an imported history, many at once. */
export async function importRuns(
  tx: Transaction,
  list: readonly { readonly run: RunRecord; readonly events: readonly RunEvent[] }[],
): Promise<void> {
  await tx.insert(runs).values(list.map((l) => l.run));
  const rows = list.flatMap((l) => l.events.map((e) => rowOf(l.run.id, e)));
  for (let i = 0; i < rows.length; i += 500) await tx.insert(runEvents).values(rows.slice(i, i + 500));
}

import type { DayBeside } from '@frustum/core';
import type { ChannelId } from '@frustum/core';
import { and, asc, desc, eq, gte, inArray, lt, sql } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { readingMinutes } from '../schema/index.ts';

export type MinuteRecord = typeof readingMinutes.$inferSelect;

/** Rows in one statement. */
const AT_ONCE = 5000;

/** Keeps finished minutes. A minute that is there already (a server that was restarted within it) is joined to it. */
export async function keepMinutes(tx: Transaction, minutes: readonly MinuteRecord[]): Promise<void> {
  const [old, added] = [readingMinutes, 'excluded'];
  const share = sql.raw(`(reading_minutes.count + ${added}.count)`);
  const joined = (column: string) =>
    sql.raw(`(reading_minutes.${column} * reading_minutes.count + ${added}.${column} * ${added}.count)`);
  for (let i = 0; i < minutes.length; i += AT_ONCE) {
    // One parameter that holds them all: with one a figure, most of the time goes into naming them.
    const rows = JSON.stringify(minutes.slice(i, i + AT_ONCE));
    await tx
      .insert(readingMinutes)
      .select(
        sql`
        select "channelId", "minute", "count", "mean", "low", "high", "temperatureC", "onBench"
        from jsonb_to_recordset(${rows}::jsonb) as r(
          "channelId" uuid, "minute" timestamptz, "count" integer, "mean" float8, "low" float8, "high" float8,
          "temperatureC" float8, "onBench" boolean
        )`,
      )
      .onConflictDoUpdate({
        target: [old.channelId, old.minute],
        set: {
          count: share,
          mean: sql`${joined('mean')} / ${share}`,
          temperatureC: sql`${joined('temperature_c')} / ${share}`,
          low: sql.raw('least(reading_minutes.low, excluded.low)'),
          high: sql.raw('greatest(reading_minutes.high, excluded.high)'),
          onBench: sql.raw('(reading_minutes.on_bench or excluded.on_bench)'),
        },
      });
  }
}

/** Minutes of a channel, oldest first. @param from and @param to ISO 8601, the end not included */
export async function readMinutes(db: Reader, channelId: ChannelId, from: string, to: string): Promise<MinuteRecord[]> {
  return db
    .select()
    .from(readingMinutes)
    .where(
      and(eq(readingMinutes.channelId, channelId), gte(readingMinutes.minute, from), lt(readingMinutes.minute, to)),
    )
    .orderBy(asc(readingMinutes.minute));
}

/** The newest minute of each channel, in which no run was under way. */
export async function readLastMinutes(db: Reader, channelIds: readonly ChannelId[]): Promise<MinuteRecord[]> {
  if (!channelIds.length) return [];
  return db
    .selectDistinctOn([readingMinutes.channelId])
    .from(readingMinutes)
    .where(and(inArray(readingMinutes.channelId, [...channelIds]), eq(readingMinutes.onBench, false)))
    .orderBy(readingMinutes.channelId, desc(readingMinutes.minute));
}

/** Minutes at the time of day at which a stretch ends, give or take so many hours; oldest first. */
export async function readMinutesAlike(
  db: Reader,
  channelId: ChannelId,
  from: string,
  to: string,
  hours: number,
): Promise<MinuteRecord[]> {
  const seconds = sql`mod(extract(epoch from (${to}::timestamptz - ${readingMinutes.minute}))::bigint, 86400)`;
  return db
    .select()
    .from(readingMinutes)
    .where(
      and(
        eq(readingMinutes.channelId, channelId),
        gte(readingMinutes.minute, from),
        lt(readingMinutes.minute, to),
        sql`(${seconds} <= ${3600 * hours}::bigint or ${seconds} >= ${86_400 - 3600 * hours}::bigint)`,
      ),
    )
    .orderBy(asc(readingMinutes.minute));
}

/** A day with fewer minutes than this in which all gave something is none. */
const MIN_MINUTES = 24;

/**
 * Means of several channels day by day, oldest first.
 *
 * @param channelIds two or more, each once
 * @param from and @param to ISO 8601, the end not included
 */
export async function readDaysBeside(
  db: Reader,
  channelIds: readonly string[],
  from: string,
  to: string,
): Promise<DayBeside[]> {
  const { minute, channelId, mean, temperatureC } = readingMinutes;
  const beside = db
    .select({
      minute,
      channelId,
      mean,
      temperatureC,
      together: sql<number>`count(*) over (partition by ${minute})`.as('together'),
    })
    .from(readingMinutes)
    .where(
      and(inArray(channelId, [...channelIds]), gte(minute, from), lt(minute, to), eq(readingMinutes.onBench, false)),
    )
    .as('beside');
  const day = sql<string>`date_trunc('day', ${beside.minute} at time zone 'utc')`;
  const rows = await db
    .select({
      day,
      channelId: beside.channelId,
      minutes: sql<number>`count(*)::integer`,
      atMs: sql<number>`avg(extract(epoch from ${beside.minute}))::float8 * 1000`,
      // In the order of time: a sum of the same figures in another order differs in its last digit.
      mean: sql<number>`avg(${beside.mean} order by ${beside.minute})`,
      temperatureC: sql<number>`avg(${beside.temperatureC} order by ${beside.minute})`,
    })
    .from(beside)
    .where(eq(beside.together, channelIds.length))
    .groupBy(day, beside.channelId)
    .orderBy(asc(day));
  // Each day has a row of every channel: minutes in which one was missing are not in it.
  return rows
    .filter((r) => r.channelId === channelIds[0] && r.minutes >= MIN_MINUTES)
    .map(({ day: on, atMs }) => ({
      atMs,
      given: channelIds.map((id) => {
        const given = rows.find((r) => r.day === on && r.channelId === id)!;
        return { mean: given.mean, temperatureC: given.temperatureC };
      }),
    }));
}

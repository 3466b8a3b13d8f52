import { and, asc, eq, gte, lt, sql } from 'drizzle-orm';
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
export async function readMinutes(db: Reader, channelId: string, from: string, to: string): Promise<MinuteRecord[]> {
  return db
    .select()
    .from(readingMinutes)
    .where(
      and(eq(readingMinutes.channelId, channelId), gte(readingMinutes.minute, from), lt(readingMinutes.minute, to)),
    )
    .orderBy(asc(readingMinutes.minute));
}

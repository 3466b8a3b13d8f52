import { sql } from 'drizzle-orm';
import type { PGlite } from '@electric-sql/pglite';
import type { Transaction } from './database.ts';

/** A row as a write left it, or a row that it removed; columns by their names in the database. */
export interface Change {
  readonly table: string;
  readonly row: Readonly<Record<string, unknown>>;
  /** it was removed */
  readonly gone?: true;
}

/**
 * The session's own list, which triggers fill (`note_changes` in the first migration). Nobody can write without it: what would
 * not be in the journal is refused by the database.
 */
export async function watchChanges(client: PGlite): Promise<void> {
  await client.exec(
    `create temp table changes (
       n integer generated always as identity, table_name text not null, gone boolean not null, "row" jsonb not null
     ) on commit delete rows`,
  );
}

/** What a transaction has changed so far, as the inside of a JSON array; '' for nothing. */
export async function changesOf(tx: Transaction): Promise<string> {
  const { rows } = await tx.execute<{ json: string | null }>(sql`
    select string_agg(
      '{"table":"' || table_name || '"' || case when gone then ',"gone":true' else '' end || ',"row":' || "row"::text || '}',
      ',' order by n
    ) as json from pg_temp.changes`);
  return rows[0]?.json ?? '';
}

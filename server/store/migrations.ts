import type { PGlite } from '@electric-sql/pglite';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { Refusal } from '@frustum/core';

export interface Migration {
  /** SHA-256 of its file */
  readonly hash: string;
  readonly statements: readonly string[];
  readonly madeAtMs: number;
}

/** The migrations of this Frustum, the oldest first. */
export const migrationsIn = (folder: string): Migration[] =>
  readMigrationFiles({ migrationsFolder: folder }).map(({ hash, sql, folderMillis }) => ({
    hash,
    statements: sql,
    madeAtMs: folderMillis,
  }));

/** Hashes of the migrations that a database is made by, the oldest first; none for a new one. */
export async function appliedTo(client: PGlite): Promise<string[]> {
  const { rows: known } = await client.query(
    `select 1 from information_schema.tables where table_schema = 'drizzle' and table_name = '__drizzle_migrations'`,
  );
  if (!known.length) return [];
  const { rows } = await client.query<{ hash: string }>('select hash from drizzle.__drizzle_migrations order by id');
  return rows.map((r) => r.hash);
}

/**
 * Whether this Frustum can bring something that was made by these migrations up to date.
 *
 * @param what in words, at the beginning of a sentence
 * @throws Refusal `of-another-frustum` for what has migrations that this one does not know
 */
export function requireKnown(what: string, applied: readonly string[], all: readonly Migration[]): void {
  if (applied.every((hash, i) => hash === all[i]?.hash)) return;
  throw new Refusal(
    'of-another-frustum',
    `${what} was written by another Frustum, newer than this one or from before its first release: this one would damage it. Start it with the Frustum that wrote it. Nothing was changed.`,
  );
}

/** Brings a database from where it is to the first so many migrations. */
export async function migrateTo(client: PGlite, all: readonly Migration[], count = all.length): Promise<void> {
  await client.exec(
    `create schema if not exists drizzle;
     create table if not exists drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)`,
  );
  const missing = all.slice((await appliedTo(client)).length, count);
  if (!missing.length) return;
  await client.transaction(async (tx) => {
    for (const { hash, statements, madeAtMs } of missing) {
      for (const statement of statements) await tx.exec(statement);
      await tx.query('insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)', [hash, madeAtMs]);
    }
  });
}

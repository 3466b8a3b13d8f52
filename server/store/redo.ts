import type { PGlite } from '@electric-sql/pglite';
import type { Change } from './changes.ts';
import { list, quoted, recount, tablesOf, type Table } from './tables.ts';

interface Redone {
  /** rows that were not as the journal says, and are now; by table */
  readonly back: Readonly<Record<string, number>>;
  /** changes that could not be laid upon this database */
  readonly aside: readonly Change[];
}

/** Rows in one statement. */
const AT_ONCE = 2000;

/**
 * Lays what was written upon an older state of the same house. Of each row the last change counts. Rows that are as they should
 * be stay untouched, so that it may be done again at every start.
 *
 * @param changes in the order in which they were made
 */
export async function redo(client: PGlite, changes: Iterable<Change>): Promise<Redone> {
  const tables = new Map((await tablesOf(client)).map((t) => [t.name, t]));
  const aside: Change[] = [];
  const last = new Map<string, Map<string, Change>>();
  for (const change of changes) {
    const table = tables.get(change.table);
    const key = table?.key.map((c) => change.row?.[c.name]);
    if (!key?.length || key.some((v) => v === undefined || v === null)) {
      aside.push(change);
      continue;
    }
    const ofTable = last.get(change.table) ?? new Map<string, Change>();
    last.set(change.table, ofTable.set(JSON.stringify(key), change));
  }
  if (!last.size) return { back: {}, aside };
  const back: Record<string, number> = {};
  await client.exec('begin; set local session_replication_role = replica');
  try {
    // What is wrong goes first, everywhere: a name or an open run that changed hands would stand in the way of the other.
    const wrong: { table: Table; rows: readonly Change[] }[] = [];
    for (const [name, byKey] of last) {
      const table = tables.get(name)!;
      const rows = await takenOut(client, table, [...byKey.values()], aside);
      if (rows.length) wrong.push({ table, rows });
    }
    for (const { table, rows } of wrong) {
      const before = aside.length;
      await inParts(
        client,
        rows.filter((c) => !c.gone),
        aside,
        (json) =>
          client.query(
            `insert into ${quoted(table.name)} (${list(table.columns)})
           select ${list(table.columns)} from jsonb_populate_recordset(null::${quoted(table.name)}, $1::jsonb)`,
            [json],
          ),
      );
      back[table.name] = rows.length - (aside.length - before);
    }
    if (wrong.length)
      await recount(
        client,
        wrong.map((w) => w.table),
      );
    await client.exec('commit');
  } catch (error) {
    await client.exec('rollback');
    throw error;
  }
  return { back, aside };
}

/** Removes the rows of a table that are not as they should be; returns their changes. */
async function takenOut(client: PGlite, table: Table, changes: readonly Change[], aside: Change[]): Promise<Change[]> {
  const same = table.key.map((c) => `t.${quoted(c.name)} = w.${quoted(c.name)}`).join(' and ');
  const found: Change[] = [];
  const statement = `
    with given as (
      select w.n as "_n", w.value->'gone' is not null as "_gone", r.*
        from jsonb_array_elements($1::jsonb) with ordinality w(value, n),
             jsonb_populate_record(null::${quoted(table.name)}, w.value->'row') r
    ), wrong as (
      select w."_n" as n, t.ctid as place
        from given w left join ${quoted(table.name)} t on ${same}
       where case when w."_gone" then t.ctid is not null else t.ctid is null
                  or to_jsonb(t) is distinct from (to_jsonb(w) - '_n' - '_gone') end
    ), removed as (
      delete from ${quoted(table.name)} t using wrong where t.ctid = wrong.place
    )
    select n::int from wrong`;
  await inParts(
    client,
    changes,
    aside,
    async (json, part) => {
      const { rows } = await client.query<{ n: number }>(statement, [json]);
      for (const { n } of rows) found.push(part[n - 1]!);
    },
    false,
  );
  return found;
}

/** Does something with changes part by part; a part that cannot be done is done one by one, and what still cannot is set aside. */
async function inParts(
  client: PGlite,
  changes: readonly Change[],
  aside: Change[],
  work: (json: string, part: readonly Change[]) => Promise<unknown>,
  rowsOnly = true,
): Promise<void> {
  const tried = async (part: readonly Change[]) => {
    await client.exec('savepoint part');
    try {
      await work(JSON.stringify(rowsOnly ? part.map((c) => c.row) : part), part);
      await client.exec('release savepoint part');
      return true;
    } catch {
      await client.exec('rollback to savepoint part');
      return false;
    }
  };
  for (let i = 0; i < changes.length; i += AT_ONCE) {
    const part = changes.slice(i, i + AT_ONCE);
    if (await tried(part)) continue;
    for (const one of part) if (!(await tried([one]))) aside.push(one);
  }
}

import type { PGlite } from '@electric-sql/pglite';

interface Column {
  readonly name: string;
  /** as SQL writes it */
  readonly type: string;
}

/** A table as the database itself describes it: snapshots and the journal know no other list. */
export interface Table {
  readonly name: string;
  readonly columns: readonly Column[];
  readonly key: readonly Column[];
  /** no other table points to its rows */
  readonly leaf: boolean;
}

/** Names as SQL may hold them. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
export const list = (columns: readonly Column[], of = ''): string =>
  columns.map((c) => (of ? `${of}.${quoted(c.name)}` : quoted(c.name))).join(', ');

/** Counted by triggers, and counted anew where those did not run. */
const COUNTS = 'row_counts';

/** Every table of the house, in the order of their names. */
export async function tablesOf(client: PGlite): Promise<Table[]> {
  const { rows } = await client.query<{
    table: string;
    column: string;
    type: string;
    key: number | null;
    leaf: boolean;
  }>(
    `select c.relname as "table", a.attname as "column", format_type(a.atttypid, a.atttypmod) as type,
            array_position(p.conkey, a.attnum) as key,
            not exists (select 1 from pg_constraint f where f.contype = 'f' and f.confrelid = c.oid) as leaf
       from pg_class c
       join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
       left join pg_constraint p on p.conrelid = c.oid and p.contype = 'p'
      where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace and c.relname <> $1
      order by c.relname, a.attnum`,
    [COUNTS],
  );
  const tables = new Map<string, { columns: Column[]; key: [number, Column][]; leaf: boolean }>();
  for (const { table, column, type, key, leaf } of rows) {
    const known = tables.get(table) ?? { columns: [], key: [], leaf };
    known.columns.push({ name: column, type });
    if (key !== null) known.key.push([key, { name: column, type }]);
    tables.set(table, known);
  }
  return [...tables].map(([name, { columns, key, leaf }]) => ({
    name,
    columns,
    leaf,
    key: key.sort(([a], [b]) => a - b).map(([, column]) => column),
  }));
}

/** Rows of each table, read one by one from the table itself. */
export async function countAll(client: PGlite, tables: readonly Table[]): Promise<Record<string, number>> {
  // Not by an index: the table's own pages are looked at, and their checksums with them.
  await client.exec('set enable_indexscan = off; set enable_indexonlyscan = off; set enable_bitmapscan = off');
  try {
    const counts: Record<string, number> = {};
    for (const { name } of tables) {
      const { rows } = await client.query<{ n: number }>(`select count(*)::float8 as n from ${quoted(name)}`);
      counts[name] = rows[0]!.n;
    }
    return counts;
  } finally {
    await client.exec('reset enable_indexscan; reset enable_indexonlyscan; reset enable_bitmapscan');
  }
}

/** Rows of each table as they were counted when they came and went. */
export async function countedRows(client: PGlite): Promise<Record<string, number>> {
  const { rows } = await client.query<{ name: string; rows: number }>(
    `select table_name as name, rows::float8 as rows from ${COUNTS} order by 1`,
  );
  return Object.fromEntries(rows.map(({ name, rows: n }) => [name, n]));
}

/** Counts tables anew, after rows have come or gone without their triggers, and lets their numbers go on behind the last one. */
export async function recount(client: PGlite, tables: readonly Table[]): Promise<void> {
  for (const { name } of tables)
    await client.query(`update ${COUNTS} set rows = (select count(*) from ${quoted(name)}) where table_name = $1`, [
      name,
    ]);
  const { rows } = await client.query<{ table: string; column: string; sequence: string }>(
    `select c.relname as "table", a.attname as "column", pg_get_serial_sequence(quote_ident(c.relname), a.attname) as sequence
       from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
      where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
        and pg_get_serial_sequence(quote_ident(c.relname), a.attname) is not null`,
  );
  for (const { table, column, sequence } of rows)
    await client.query(
      `select setval($1::regclass, greatest(max(${quoted(column)}), last.value)) from ${quoted(table)},
              (select coalesce(pg_sequence_last_value($1::regclass), 1) as value) as last group by last.value`,
      [sequence],
    );
}

/** References that lead nowhere, as “table: how many”; nothing when all is well. */
export async function orphans(client: PGlite): Promise<string[]> {
  const { rows } = await client.query<{ name: string; child: string; parent: string; own: string[]; other: string[] }>(
    `select f.conname as name, c.relname as child, p.relname as parent,
            (select array_agg(a.attname::text order by k.n) from unnest(f.conkey) with ordinality k(num, n)
               join pg_attribute a on a.attrelid = f.conrelid and a.attnum = k.num) as own,
            (select array_agg(a.attname::text order by k.n) from unnest(f.confkey) with ordinality k(num, n)
               join pg_attribute a on a.attrelid = f.confrelid and a.attnum = k.num) as other
       from pg_constraint f join pg_class c on c.oid = f.conrelid join pg_class p on p.oid = f.confrelid
      where f.contype = 'f'`,
  );
  const found: string[] = [];
  for (const { name, child, parent, own, other } of rows) {
    const same = own.map((column, i) => `p.${quoted(other[i]!)} = c.${quoted(column)}`).join(' and ');
    const given = own.map((column) => `c.${quoted(column)} is not null`).join(' and ');
    const counted = await client.query<{ n: number }>(
      `select count(*)::float8 as n from ${quoted(child)} c
        where ${given} and not exists (select 1 from ${quoted(parent)} p where ${same})`,
    );
    if (counted.rows[0]!.n) found.push(`${name}: ${counted.rows[0]!.n}`);
  }
  return found;
}

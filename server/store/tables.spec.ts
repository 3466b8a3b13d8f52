import { join } from 'node:path';
import type { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Change } from './changes.ts';
import { migrationsIn } from './migrations.ts';
import { openPassing } from './opening.ts';
import { redo } from './redo.ts';
import { countAll, countedRows, tablesOf } from './tables.ts';

const USER = { id: '00000000-0000-4000-8000-000000000001', name: 'Operator A', role: 'operator' };

describe('every table', () => {
  let client: PGlite;
  beforeAll(async () => {
    ({ client } = await openPassing(
      migrationsIn(join(import.meta.dirname, 'migrations')),
      join(import.meta.dirname, '../dist/empty-database'),
    ));
  });
  afterAll(() => client.close());

  it('is counted and journalled: what one of the two forgets is missing from a backup', async () => {
    const { rows } = await client.query<{ table: string; what: string; function: string }>(
      `select tgrelid::regclass::text as "table", tgname as what, tgfoid::regproc::text as function
         from pg_trigger where not tgisinternal`,
    );
    const by = (name: string) =>
      rows.filter((r) => r.table === name && r.what.startsWith(`${name}_`) && !r.function.endsWith('_are_kept'));
    for (const { name } of await tablesOf(client)) {
      if (name === 'house') continue;
      expect(
        by(name).map((r) => r.function),
        name,
      ).toEqual(Array.from({ length: 3 }, () => 'note_changes'));
      expect((await countedRows(client))[name], name).toBe(0);
    }
  });

  it('cannot be written to by a session that keeps no journal', async () => {
    await client.exec('drop table pg_temp.changes');
    await expect(client.query(`insert into users values ($1, $2, $3)`, Object.values(USER))).rejects.toThrow(/changes/);
  });

  it('takes the last state of each row from the journal; what cannot be laid upon it is set aside, and takes nothing along', async () => {
    const user = (id: number, name: string): Change => ({ table: 'users', row: { ...USER, id: USER.id.slice(0, -1) + id, name } }); // prettier-ignore
    const unknown: Change = { table: 'gone', row: { id: 1 } };
    const halfARow: Change = { table: 'users', row: { id: USER.id.slice(0, -1) + 9, name: null } };
    // A name that changes hands: the first state of one would stand in the way of the last one of the other.
    const changes = [user(1, 'A'), user(2, 'B'), user(1, 'C'), user(2, 'A'), { ...user(3, 'D') }, { ...user(3, 'D'), gone: true as const }]; // prettier-ignore
    const first = await redo(client, [...changes, unknown, halfARow]);
    expect(first).toEqual({ back: { users: 2 }, aside: [unknown, halfARow] });
    const { rows } = await client.query('select name from users order by id');
    expect(rows).toEqual([{ name: 'C' }, { name: 'A' }]);
    expect(await redo(client, changes)).toEqual({ back: {}, aside: [] });
    const tables = await tablesOf(client);
    expect((await countedRows(client))['users']).toBe((await countAll(client, tables))['users']);
  });
});

/** Part of the build: makes an empty database with all its tables, which a first start copies instead of making one. */
import { rmSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { watchChanges } from './changes.ts';
import { migrateTo, migrationsIn } from './migrations.ts';

const [migrationsFolder, folder] = process.argv.slice(2);
if (!migrationsFolder || !folder) throw new Error('needs the folder of migrations, and where to make it');
// A copy keeps whom its files let in.
process.umask(0o077);
rmSync(folder, { recursive: true, force: true });
const client = await PGlite.create(folder);
await watchChanges(client);
await migrateTo(client, migrationsIn(migrationsFolder));
await client.exec('drop table changes');
await client.close();

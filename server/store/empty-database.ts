/** Part of the build: makes an empty database with all its tables, which a first start copies instead of making one. */
import { rmSync } from 'node:fs';
import { chmodAll } from './chmod-all.ts';
import { PGlite } from '@electric-sql/pglite';
import { watchChanges } from './changes.ts';
import { migrateTo, migrationsIn } from './migrations.ts';

const [migrationsFolder, folder] = process.argv.slice(2);
if (!migrationsFolder || !folder) throw new Error('needs the folder of migrations, and where to make it');
rmSync(folder, { recursive: true, force: true });
const client = await PGlite.create(folder);
await watchChanges(client);
await migrateTo(client, migrationsIn(migrationsFolder));
await client.exec('drop table changes');
await client.close();
// PostgreSQL keeps its files to itself; a server that runs as somebody else than it was built by has to read these.
chmodAll(folder, 0o644, 0o755);

/** Part of the build: writes an empty database with all its tables, which a first start copies instead of making one. */
import { writeFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { watchChanges } from './changes.ts';
import { migrateTo, migrationsIn } from './migrations.ts';

const [migrationsFolder, file] = process.argv.slice(2);
if (!migrationsFolder || !file) throw new Error('needs the folder of migrations, and where to write to');
const client = await PGlite.create('memory://');
await watchChanges(client);
await migrateTo(client, migrationsIn(migrationsFolder));
await client.exec('drop table changes');
writeFileSync(file, Buffer.from(await (await client.dumpDataDir('gzip')).arrayBuffer()));
await client.close();

import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { rowsIn, writeAll } from '../testing/fill.ts';
import { WRITERS } from './commands/index.ts';
import { readState, noteState } from './database-state.ts';
import { knownGood, storeFolders } from './known-good.ts';
import { verify } from './manifest.ts';
import { migrationsIn } from './migrations.ts';
import { openStore, type OpenStore } from './open.ts';
import { build, rebuild } from './rebuild.ts';

const MIGRATIONS = join(import.meta.dirname, 'migrations');
const WORKER = new URL('../dist/store-worker.js', import.meta.url);
const EMPTY = join(import.meta.dirname, '../dist/empty-database');
const making = { migrations: migrationsIn(MIGRATIONS), empty: EMPTY };

let folder: string;
let said: string[];
let opened: OpenStore | null;
const database = () => join(folder, 'database');
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'frustum-drill-'));
  said = [];
  opened = null;
});
afterEach(async () => {
  await opened?.close().catch(() => undefined);
  rmSync(folder, { recursive: true, force: true });
});

async function open(migrations = MIGRATIONS): Promise<OpenStore> {
  opened = await openStore(
    WORKER,
    { dataFolder: folder, migrations },
    undefined,
    (sentence) => void said.push(sentence),
  );
  await opened.thread.begun();
  return opened;
}
async function close(): Promise<void> {
  await opened!.close();
  opened = null;
}

describe('a restore drill', () => {
  it('a house with every kind of record is built again from a snapshot that was made while it was written to, and the journal', async () => {
    const { store, thread } = await open();
    // The empty database that was copied may be read by others than its builder; the house may not.
    expect(statSync(EMPTY).mode & 0o777).toBe(0o755);
    const modes = ['', 'PG_VERSION', 'base', 'base/1/PG_VERSION'].map(
      (name) => statSync(join(database(), name)).mode & 0o777,
    );
    expect(modes).toEqual([0o700, 0o600, 0o700, 0o600]);
    const names = new Set<string>();
    await writeAll(store, 1, (name) => names.add(name));
    // Whatever can be written is part of the drill; the rest are the queue’s ends and what a file brings.
    const elsewhere = ['queueMessages', 'dropMessages', 'forgetGivenUp', 'dropService', 'importRuns'];
    expect([...names, ...elsewhere].sort()).toEqual(Object.keys(WRITERS).sort());
    const taking = thread.snapshot();
    await writeAll(store, 2);
    const { name, manifest } = await taking;
    await writeAll(store, 3);
    await close();
    const before = await rowsIn(database());
    expect(before['loops']).toHaveLength(6);

    // The snapshot by itself: a whole house of some moment while it was made.
    const snapshot = join(folder, 'snapshots', name);
    expect((await verify(snapshot)).counts).toEqual(manifest.counts);
    const alone = join(folder, 'alone');
    const { counts } = await build(alone, { backup: snapshot, then: [], house: null }, making);
    expect(counts).toMatchObject(manifest.counts);

    // And with the journal: everything.
    const folders = storeFolders(folder);
    const ways = knownGood(folders);
    expect(ways.map((w) => w.snapshot?.name)).toEqual([name]);
    expect(ways[0]!.writes).toBeGreaterThan(15);
    await rebuild(folders, ways, join(folder, 'aside'), making);
    expect(await rowsIn(database())).toEqual(before);
    await open();
    await close();
    expect(said).toEqual([]);

    // Rows that were taken out behind its back; and the database gone, beside its journal.
    const client = await PGlite.create(database());
    await client.exec('set session_replication_role = replica; delete from lots');
    await client.close();
    await expect(open()).rejects.toThrow(/“lots” has 0 rows instead of 3\..* Known to be good: the snapshot of/);
    rmSync(database(), { recursive: true });
    await expect(open()).rejects.toThrow(
      /it is missing, though its journal or snapshots are there\..* Known to be good: the snapshot of .* UTC, and \d+ writes in the journal after it\. “npm run restore” brings the house back to there\./,
    );
  });
});

describe('a power cut', () => {
  it('that took the last writes from the database takes nothing: it is built anew, or they come back from the journal', async () => {
    const { store, thread } = await open();
    await writeAll(store, 1);
    await thread.snapshot();
    await close();
    cpSync(database(), join(folder, 'older'), { recursive: true });
    cpSync(`${database()}.state.json`, join(folder, 'older.state.json'));
    const second = await open();
    await writeAll(second.store, 2);
    await close();
    const before = await rowsIn(database());
    const putBack = (boot: string | null) => {
      rmSync(database(), { recursive: true });
      cpSync(join(folder, 'older'), database(), { recursive: true });
      cpSync(join(folder, 'older.state.json'), `${database()}.state.json`);
      if (boot !== null) noteState(database(), { ...readState(database())!, closed: false, boot });
    };
    // The same run of the computer: its system has lost nothing, but somebody has put back an older copy.
    putBack(null);
    await open();
    await close();
    expect(said.join(' ')).toMatch(/^\d+ rows came back from the journal: .*3 of sensors/);
    expect(await rowsIn(database())).toEqual(before);
    // Another run of the computer.
    said = [];
    putBack('before');
    await open();
    await close();
    expect(said[0]).toMatch(
      /^The computer went down while Frustum ran\. The database is built anew from the snapshot of .* UTC, and \d+ writes in the journal after it …$/,
    );
    expect(said).toHaveLength(1);
    expect(await rowsIn(database())).toEqual(before);
  });
});

describe('another Frustum', () => {
  it('an older folder is kept as a snapshot before it is brought up to date; a newer one is refused and left as it is', async () => {
    const { store } = await open();
    await writeAll(store, 1);
    await close();
    const newer = join(folder, 'newer-migrations');
    cpSync(MIGRATIONS, newer, { recursive: true });
    writeFileSync(join(newer, '0099_more.sql'), `ALTER TABLE "lots" ADD COLUMN "shelf" text DEFAULT 'left' NOT NULL;\n--> statement-breakpoint\nUPDATE "lots" SET "label" = 'renamed';`); // prettier-ignore
    const journal = join(newer, 'meta/_journal.json');
    const read = JSON.parse(readFileSync(journal, 'utf8')) as { entries: object[] };
    read.entries.push({ ...read.entries[0], idx: read.entries.length, tag: '0099_more', when: Date.now() });
    writeFileSync(journal, JSON.stringify(read));
    const { store: upgraded } = await open(newer);
    expect(said).toEqual([
      expect.stringMatching(/is of an older Frustum\. It was kept as the snapshot \d{8}T\d{6}Z before/),
    ]);
    expect((await upgraded.readLots())[0]!.label).toBe('renamed');
    await close();
    const [name] = readdirSync(join(folder, 'snapshots'));
    await expect(open()).rejects.toMatchObject({ code: 'of-another-frustum' });
    // The snapshot of before is brought up to date, too.
    const snapshot = { backup: join(folder, 'snapshots', name!), then: [], house: null };
    await build(join(folder, 'other'), snapshot, { ...making, migrations: migrationsIn(newer) });
    expect((await rowsIn(join(folder, 'other')))['lots']![0]).toMatch(/"label": "renamed".*"shelf": "left"/);
  });
});

/**
 * npm run restore: without more, a data folder’s own house from what is known to be good; with a backup file or a snapshot, that
 * one. It is built in a new folder and counted before it takes the place of the present one, which is set aside.
 */
import { randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync, rmSync, statfsSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Refusal } from '@frustum/core';
import { checkConfig } from './config/config.ts';
import { readEnv } from './config/env.ts';
import { EMPTY_DATABASE, MIGRATIONS, STORE_WORKER } from './open-house.ts';
import { COUNTED, countsIn } from './services/backups/house-counts.ts';
import { errorOf } from './store/failures.ts';
import { lockFolder, type FolderLock } from './store/folder-lock.ts';
import { knownGood, knownGoodWords, storeFolders } from './store/known-good.ts';
import { verify } from './store/manifest.ts';
import { migrationsIn } from './store/migrations.ts';
import { openStore } from './store/open.ts';
import { bringPhotos, unpack } from './store/pack.ts';
import { build, rebuild, type Progress } from './store/rebuild.ts';
import { snapshotsIn } from './store/snapshots-in.ts';
import { finishSwitch, INCOMING, INFO, SET_ASIDE, switchTo } from './store/switch.ts';

process.umask(0o077);
const { dataFolder } = checkConfig(readEnv(process.env));
const folders = storeFolders(dataFolder);
const incoming = join(dataFolder, INCOMING);
const [wanted] = process.argv.slice(2);
const making = { migrations: migrationsIn(MIGRATIONS), empty: EMPTY_DATABASE, onProgress: progress() };

async function main(): Promise<void> {
  const lock = await lockFolder(dataFolder, new Date().toISOString(), 'npm run restore');
  try {
    finishSwitch(dataFolder);
    rmSync(incoming, { recursive: true, force: true });
    if (wanted === undefined) await restoreKnownGood();
    else if (wanted === '--list') list();
    else await restoreFrom(wanted, lock);
  } finally {
    await lock.unlock();
  }
}

function list(): void {
  const all = snapshotsIn(folders.snapshots);
  for (const { name, manifest, bytes } of all)
    say(
      `${name}  ${(bytes / 1e6).toFixed(1).padStart(8)} MB  ${manifest.counts['runs']} runs, ${manifest.counts['run_events']} events`,
    );
  if (!all.length) say(`There are no snapshots in ${folders.snapshots}.`);
}

/** The present house, from its last snapshot that reads back and its journal. */
async function restoreKnownGood(): Promise<void> {
  const ways = knownGood(folders);
  if (!ways.length)
    throw new Refusal(
      'nothing-known',
      `Neither snapshots nor a journal are in ${dataFolder}. Give a backup file: npm run restore -- frustum-….tar`,
    );
  say(`Building the house anew from ${knownGoodWords(ways[0]!)} …`);
  const at = new Date().toISOString();
  const name = at.replace(/[-:]|\.\d+/g, '');
  const aside = join(dataFolder, SET_ASIDE, name);
  mkdirSync(aside, { recursive: true, mode: 0o700 });
  const { way, counts, aside: left } = await rebuild(folders, ways, join(aside, 'database'), making);
  writeFileSync(join(aside, INFO), JSON.stringify({ at, because: `Built anew from ${knownGoodWords(way)}.` }), {
    mode: 0o600,
  });
  if (way !== ways[0]) say(`The newest snapshot does not read back. It was built from ${knownGoodWords(way)}.`);
  if (left.length) {
    writeFileSync(join(aside, 'not-laid-upon-it.ndjson'), left.map((c) => `${JSON.stringify(c)}\n`).join(''), {
      mode: 0o600,
    });
    say(`${left.length} changes could not be laid upon it. They were set aside in ${aside}.`);
  }
  compare(null, counts);
  say(`The house is back. The files that were there before are in ${aside}. Start Frustum.`);
}

async function restoreFrom(what: string, lock: FolderLock): Promise<void> {
  const known = snapshotsIn(folders.snapshots).find((s) => s.name === what);
  const path = known ? join(folders.snapshots, known.name) : resolve(process.env['INIT_CWD'] ?? process.cwd(), what);
  if (!existsSync(path))
    throw new Refusal(
      'file-unknown',
      `There is no ${path}. Give a backup file, or a snapshot’s name from npm run restore -- --list`,
    );
  let backup = path;
  if (statSync(path).isFile()) {
    backup = join(incoming, 'backup');
    mkdirSync(incoming, { recursive: true, mode: 0o700 });
    const { bavail, bsize } = statfsSync(dataFolder);
    await unpack(createReadStream(path), backup, bavail * bsize);
  }
  const had = existsSync(folders.database);
  const { takenAt } = await verify(backup);
  const from = `the ${known ? 'snapshot' : 'backup'} of ${takenAt.slice(0, 16).replace('T', ' ')} UTC`;
  say(`Building a house from ${from} …`);
  const order = { backup, then: [], house: randomUUID() };
  const { counts } = await build(join(incoming, 'database'), order, making);
  compare(await presentCounts(lock), counts);
  await bringPhotos(join(backup, 'photos'), dataFolder);
  switchTo(dataFolder, INCOMING, `Restored from ${from}.`);
  const before = had ? ' The one before is set aside; the page “Snapshots and backups” brings it back.' : '';
  say(`The house of ${from} is in its place.${before} Start Frustum.`);
}

/** Rows of the present house; null when it does not open. */
async function presentCounts({ file, token }: FolderLock): Promise<Readonly<Record<string, number>> | null> {
  if (!existsSync(folders.database)) return null;
  try {
    const opened = await openStore(STORE_WORKER, { dataFolder, migrations: MIGRATIONS, holder: { file, token } });
    const { counts } = await opened.thread.state();
    await opened.close();
    return counts;
  } catch (error) {
    say(`The house that is there does not open: ${errorOf(error).message}`);
    return null;
  }
}

function compare(before: Readonly<Record<string, number>> | null, after: Readonly<Record<string, number>>): void {
  const [was, is] = [before && countsIn(before), countsIn(after)];
  say(`${''.padEnd(14)}${was ? 'there now'.padStart(12) : ''}${'restored'.padStart(12)}`);
  for (const [key, name] of Object.entries(COUNTED) as [keyof typeof COUNTED, string][])
    say(`${name.padEnd(14)}${was ? String(was[key]).padStart(12) : ''}${String(is[key]).padStart(12)}`);
}

/** Says every tenth of the way. */
function progress(): Progress {
  let said = 0;
  return (rows, of) => {
    const tenth = Math.floor((10 * rows) / Math.max(1, of));
    if (tenth > said && of > 100_000) say(`  ${10 * tenth} %`);
    said = tenth;
  };
}

function say(sentence: string): void {
  process.stdout.write(`${sentence}\n`);
}

main().catch((error: unknown) => {
  rmSync(incoming, { recursive: true, force: true });
  process.stderr.write(`${error instanceof Refusal ? error.message : errorOf(error).stack}\n`);
  process.exit(1);
});

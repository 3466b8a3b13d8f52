/**
 * npm run report:backup: a house of 1000 loops, 20 000 runs and 5 million minutes is backed up while its pages are asked for, and
 * restored into a second folder. Times, sizes and memory go to docs/reliability.md by hand.
 */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { MarginsView } from '@frustum/contract';
import { checkConfig } from '../server/config/config.ts';
import { makeContext } from '../server/context.ts';
import { readMargins } from '../server/services/margins/margins.ts';
import { openStore } from '../server/store/open.ts';
import { recount, tablesOf } from '../server/store/tables.ts';
import { fillHouse } from './margins-load.ts';

const root = join(import.meta.dirname, '..');
const [loops = 1000, minutes = 5_000_000] = process.argv.slice(2).map(Number);
const MIGRATIONS = join(root, 'server/store/migrations');
const WORKER = new URL('../server/dist/store-worker.js', import.meta.url);
const RUNS = 20;
const EVENTS = 20;
const work = process.env['FRUSTUM_WORK'] ?? mkdtempSync(join(tmpdir(), 'frustum-large-'));
const say = (line: string) => void process.stdout.write(`${line}\n`);

/** Peak of a process’s memory since it began, MB. */
const peak = (pid: number) => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

async function fill(folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const opened = await openStore(WORKER, { dataFolder: folder, migrations: MIGRATIONS });
  await opened.thread.begun();
  await fillHouse({ context: { store: opened.store } }, { loops, runs: RUNS });
  await opened.close();
  // Invented readings and events, in the database itself: what a house of some days of a thousand loops has.
  const client = await PGlite.create(join(folder, 'database'));
  await client.exec('set session_replication_role = replica');
  const each = Math.ceil(minutes / loops);
  await client.query(
    `insert into reading_minutes (channel_id, minute, count, mean, low, high, temperature_c, on_bench)
     select c.id, timestamptz '2026-11-20T00:00:00Z' + m * interval '1 minute', 60, random() * 100, random() * 100,
            random() * 100, 20 + random(), false from channels c, generate_series(1, $1::int) m`,
    [each],
  );
  await client.query(
    `insert into run_events (run_id, seq, device, counter, at, by, body, version)
     select r.id, n, 'phone', n, r.started_at, 'Operator A',
            jsonb_build_object('type', 'noted', 'text', repeat(md5(n::text), 8)), 1 from runs r, generate_series(1, $1::int) n`,
    [EVENTS],
  );
  await recount(client, await tablesOf(client));
  await client.close();
  // The journal knows nothing of them: it begins with the snapshot that is made now.
  rmSync(join(folder, 'journal'), { recursive: true });
  rmSync(join(folder, 'database.state.json'), { force: true });
}

async function start(folder: string): Promise<{ child: ChildProcess; url: string; ms: number }> {
  const from = performance.now();
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
    env: { ...process.env, FRUSTUM_DATA: folder, PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((resolve, reject) => {
    let words = '';
    child.stdout.on('data', (chunk: Buffer) => {
      words += chunk.toString();
      const found = /Frustum is at (\S+)/.exec(words)?.[1];
      if (found) resolve(found);
    });
    child.once('exit', () => reject(new Error(words)));
  });
  return { child, url, ms: performance.now() - from };
}
const stopped = (child: ChildProcess) =>
  new Promise((resolve) => {
    child.once('exit', resolve);
    child.kill('SIGTERM');
  });

/** Margins of a folder that nobody has open, all of them at one moment. */
async function marginsOf(folder: string): Promise<string> {
  const { store, thread, close } = await openStore(WORKER, { dataFolder: folder, migrations: MIGRATIONS });
  await thread.begun();
  const env = { port: '0', host: undefined, data: folder, logLevel: 'silent', demoBundle: undefined, handsUrl: undefined, watchedMs: undefined, pollAlways: undefined, allow: undefined }; // prettier-ignore
  const context = makeContext(checkConfig(env), store, { now: () => Date.parse('2026-11-30T00:00:00Z') });
  await context.fleets.recall(store);
  const { json } = await readMargins(context);
  await close();
  return json.toString();
}

const folder = join(work, 'one');
if (!existsSync(folder)) await fill(folder);
const first = await start(folder);
say(`start: ${(first.ms / 1000).toFixed(1)} s`);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const margins = async () => JSON.parse(await (await fetch(`${first.url}/api/margins`)).text()) as MarginsView;
// Learned, its alarms raised, and quiet: only the backup is measured.
let { rows } = await margins();
for (let i = 0; i < 100 && !rows.some((r) => r.learnedFrom.sensors > 0); i++) {
  await pause(3000);
  ({ rows } = await margins());
}
await pause(40_000);
await margins();

/** Asks for pages one after the other until told to stop; times of each, ms. */
async function asking(until: () => boolean): Promise<Record<string, number[]>> {
  const times: Record<string, number[]> = { Margins: [], 'a sensor': [], shelf: [], 'a day of readings': [] };
  for (let i = 0; !until(); i++) {
    const { sensorId } = rows[(i * 37) % rows.length]!;
    const paths = { Margins: '/margins', 'a sensor': `/sensors/${sensorId}`, shelf: '/shelf', 'a day of readings': `/sensors/${sensorId}/readings?days=1` }; // prettier-ignore
    for (const [name, path] of Object.entries(paths)) {
      const from = performance.now();
      await (await fetch(`${first.url}/api${path}`)).arrayBuffer();
      times[name]!.push(performance.now() - from);
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return times;
}
const tell = (when: string, times: Record<string, number[]>) => {
  for (const [name, list] of Object.entries(times)) {
    const sorted = [...list].sort((a, b) => a - b);
    say(
      `  ${when}, ${name}: median ${sorted[sorted.length >> 1]!.toFixed(0)} ms, longest ${sorted.at(-1)!.toFixed(0)} ms, ${list.length} times`,
    );
  }
};
let over = false;
const quiet = asking(() => over);
await new Promise((resolve) => setTimeout(resolve, 8000));
over = true;
tell('without', await quiet);
over = false;
const meanwhile = asking(() => over);
const resident = peak(first.child.pid!);
const from = performance.now();
const { name } = (await (await fetch(`${first.url}/api/backups`, { method: 'POST' })).json()) as { name: string };
const seconds = (performance.now() - from) / 1000;
over = true;
tell('while it is made', await meanwhile);
say(
  `snapshot: ${seconds.toFixed(1)} s with read-back; peak of resident memory ${resident.toFixed(0)} before, ${peak(first.child.pid!).toFixed(0)} MB after`,
);
const file = join(work, 'house.tar');
rmSync(file, { force: true });
execFileSync(process.execPath, [join(root, 'server/dist/backup.js'), file], { env: { ...process.env, FRUSTUM_DATA: folder }, stdio: 'inherit' }); // prettier-ignore
say(`file: ${(statSync(file).size / 1e6).toFixed(1)} MB; snapshot ${name}`);
await stopped(first.child);

const second = join(work, 'two');
rmSync(second, { recursive: true, force: true });
mkdirSync(second);
const restoring = spawn(process.execPath, [join(root, 'server/dist/restore.js'), file], { env: { ...process.env, FRUSTUM_DATA: second }, stdio: ['ignore', 'inherit', 'inherit'] }); // prettier-ignore
const began = performance.now();
let most = 0;
const watch = setInterval(() => (most = Math.max(most, peak(restoring.pid!))), 200);
await new Promise((resolve) => restoring.once('exit', resolve));
clearInterval(watch);
say(`restore: ${((performance.now() - began) / 1000).toFixed(1)} s, peak ${most.toFixed(0)} MB`);
const again = await start(second);
say(`start of the restored house: ${(again.ms / 1000).toFixed(1)} s`);
await stopped(again.child);
const [before, after] = [await marginsOf(folder), await marginsOf(second)];
say(
  after === before
    ? `Margins are the same to the last digit: ${(before.length / 1e6).toFixed(1)} MB of them.`
    : 'Margins differ.',
);
if (!process.env['FRUSTUM_WORK']) rmSync(work, { recursive: true, force: true });
process.exit(after === before ? 0 : 1);

/**
 * npm run torture: kills, cuts and puts back older copies until something acknowledged is lost. Every random choice comes from one
 * seed, which is printed; what of it falls between two kills depends on the machine.
 */
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Refusal } from '@frustum/core';
import { killServer, startServer } from '../server/testing/running.ts';
import { rowsIn, writeAll } from '../server/testing/fill.ts';
import { noteState, readState } from '../server/store/database-state.ts';
import { errorOf } from '../server/store/failures.ts';
import { knownGood, storeFolders } from '../server/store/known-good.ts';
import { migrationsIn } from '../server/store/migrations.ts';
import { openStore } from '../server/store/open.ts';
import { rebuild } from '../server/store/rebuild.ts';
import { numbers, TortureHouse } from './torture-house.ts';

const root = join(import.meta.dirname, '..');
const MIGRATIONS = join(root, 'server/store/migrations');
const WORKER = new URL('../server/dist/store-worker.js', import.meta.url);
const EMPTY = join(root, 'server/dist/empty-database');
const CLIENTS = 6;

interface Torn {
  readonly name: string;
  readonly times: number;
  readonly what: string;
  readonly wrong: readonly string[];
}

/** A house that has been killed so often gives way to a new one: looking through all of it takes longer with each. */
const KILLS_OF_A_HOUSE = 50;

/** Kills the server’s whole group under mixed writes, and puts back older copies of the database as a power cut would. */
export async function tortureKills(
  times: number,
  seed: number,
  { say = () => {}, olderEvery = 8 }: { readonly say?: (line: string) => void; readonly olderEvery?: number } = {},
): Promise<Torn> {
  const random = numbers(seed);
  const wrong: string[] = [];
  const acked: Record<string, number> = {};
  let cuts = 0;
  for (let done = 0; done < times && !wrong.length; done += KILLS_OF_A_HOUSE) {
    const house = new TortureHouse(random);
    cuts += await killHouse(house, random, Math.min(KILLS_OF_A_HOUSE, times - done), olderEvery, (line) =>
      say(`house ${done / KILLS_OF_A_HOUSE + 1}: ${line}`),
    );
    wrong.push(...house.wrong);
    for (const [kind, count] of Object.entries(house.acked)) acked[kind] = (acked[kind] ?? 0) + count;
  }
  const total = Object.values(acked).reduce((sum, n) => sum + n, 0);
  const kinds = Object.entries(acked)
    .map(([kind, count]) => `${count} × ${kind}`)
    .join(', ');
  return { name: 'kill -9 of the group under writes of every kind, older database files put back', times, what: `${total} writes acknowledged (${kinds}); ${cuts} times older files put back as by a power cut`, wrong }; // prettier-ignore
}

/** @returns how often older files were put back */
async function killHouse(
  house: TortureHouse,
  random: () => number,
  times: number,
  olderEvery: number,
  say: (line: string) => void,
): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-torture-'));
  const older = join(folder, 'older');
  let cuts = 0;
  let hasOlder = false;
  try {
    let running = await startServer(folder, { FRUSTUM_LOG: 'error' });
    for (let n = 1; n <= times; n++) {
      const until = house.total + 3 + Math.floor(40 * random());
      let ended = false;
      const client = async () => {
        while (!ended && house.total < until) if (!(await house.write(running.url))) return;
        ended = true;
      };
      const snapshot = random() < 0.2 && fetch(`${running.url}/api/backups`, { method: 'POST' }).catch(() => null);
      await Promise.race(Array.from({ length: CLIENTS }, client));
      await killServer(running);
      ended = true;
      if (snapshot) await snapshot;
      const database = join(folder, 'database');
      if (n % olderEvery === olderEvery >> 1) {
        rmSync(older, { recursive: true, force: true });
        cpSync(database, older, { recursive: true });
        hasOlder = true;
      } else if (n % olderEvery === 0 && hasOlder) {
        // As a power cut would: the files as they were some kills ago, or a part of them, and another run of the computer.
        cuts++;
        if (n % (2 * olderEvery) === 0) rmSync(database, { recursive: true });
        cpSync(older, database, { recursive: true, force: true });
        noteState(database, { ...readState(database)!, sizes: {}, closed: false, boot: 'before' });
      }
      try {
        running = await startServer(folder, { FRUSTUM_LOG: 'error' });
      } catch (error) {
        house.wrong.push(`start ${n}: ${(error as Error).message.trim()}`);
        break;
      }
      const before = house.wrong.length;
      await house.check(running.url);
      for (const wrong of house.wrong.slice(before)) say(`kill ${n}: ${wrong}`);
      if (n % 20 === 0) say(`${n} kills, ${house.total} writes acknowledged, ${house.wrong.length} wrong`);
    }
    await killServer(running).catch(() => undefined);
    return cuts;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Cuts the journal at every byte of its last line, beside a database that has lost that write, too. */
async function tortureJournal(every: number): Promise<Torn> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-torture-'));
  const wrong: string[] = [];
  const open = async (said: string[]) => {
    const opened = await openStore(WORKER, { dataFolder: folder, migrations: MIGRATIONS }, undefined, (s) =>
      said.push(s),
    );
    await opened.thread.begun();
    return opened;
  };
  try {
    let opened = await open([]);
    await writeAll(opened.store, 1);
    await opened.close();
    cpSync(join(folder, 'database'), join(folder, 'before'), { recursive: true });
    const base = await rowsIn(join(folder, 'database'));
    opened = await open([]);
    const user = { id: '00000000-0000-4000-8000-00000000abcd', name: 'Operator Ω', role: 'operator' };
    await opened.store.keepUsers([user]);
    await opened.close();
    const file = join(
      folder,
      'journal',
      readdirSync(join(folder, 'journal'))
        .filter((f) => statSync(join(folder, 'journal', f)).size > 300)
        .sort()
        .at(-1)!,
    );
    const whole = readFileSync(file);
    const from = whole.lastIndexOf(10, whole.length - 2) + 1;
    let times = 0;
    const cuts = Array.from({ length: whole.length - from }, (_, i) => from + i).filter(
      (at) => (at - from) % every === 0,
    );
    for (const cut of [...cuts, whole.length]) {
      times++;
      rmSync(join(folder, 'database'), { recursive: true });
      cpSync(join(folder, 'before'), join(folder, 'database'), { recursive: true });
      for (const name of readdirSync(join(folder, 'journal')))
        if (join(folder, 'journal', name) > file) rmSync(join(folder, 'journal', name));
      writeFileSync(file, whole.subarray(0, cut));
      const again = await open([]);
      await again.store.keepUsers([{ ...user, id: user.id.replace('abcd', 'abce'), name: `after ${cut}` }]);
      await again.close();
      const rows = await rowsIn(join(folder, 'database'));
      const has = (name: string) => rows['users']!.some((r) => r.includes(name));
      if (!has(`after ${cut}`)) wrong.push(`cut at byte ${cut}: what was written next is lost`);
      if (has('Operator Ω') !== (cut === whole.length))
        wrong.push(`cut at byte ${cut}: the write is ${has('Operator Ω') ? 'there' : 'lost'}`);
      for (const [table, list] of Object.entries(base))
        if (table !== 'users' && JSON.stringify(rows[table]) !== JSON.stringify(list))
          wrong.push(`cut at byte ${cut}: ${table} has changed`);
    }
    return { name: 'journal cut in its last line, beside a database that lost that write', times, what: every === 1 ? `at every one of ${whole.length - from} bytes` : `at every ${every}th byte`, wrong }; // prettier-ignore
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const HARMS = ['cut to nothing', 'cut in half', 'zeroed', 'one page zeroed', 'one bit changed', 'removed'] as const;

function harm(file: string, how: (typeof HARMS)[number], random: () => number): void {
  const { size } = statSync(file);
  if (how === 'removed') return rmSync(file);
  if (how === 'cut to nothing') return truncateSync(file, 0);
  if (how === 'cut in half') return truncateSync(file, Math.floor(size / 2));
  const bytes = readFileSync(file);
  if (how === 'zeroed') bytes.fill(0);
  else if (how === 'one page zeroed') {
    const page = Math.floor((random() * size) / 8192) * 8192;
    bytes.fill(0, page, Math.min(size, page + 8192));
  } else bytes[Math.floor(random() * size)]! ^= 1 << Math.floor(8 * random());
  writeFileSync(file, bytes);
}

/** Harms one database file at a time: the start says so, and the restore brings everything back; or nothing was lost by it. */
export async function tortureFiles(cases: number, seed: number, say: (line: string) => void = () => {}): Promise<Torn> {
  const random = numbers(seed);
  const folder = mkdtempSync(join(tmpdir(), 'frustum-torture-'));
  const database = join(folder, 'database');
  const wrong: string[] = [];
  const counts = { whole: 0, refused: 0 };
  const open = () => openStore(WORKER, { dataFolder: folder, migrations: MIGRATIONS });
  try {
    const opened = await open();
    await opened.thread.begun();
    await writeAll(opened.store, 1);
    await opened.thread.snapshot();
    for (let n = 2; n <= 6; n++) await writeAll(opened.store, n);
    // Killed, not closed: what is in memory only must come from its own log.
    await opened.crash();
    // It opens again by itself, from that log.
    await opened.close();
    const expected = JSON.stringify(await rowsIn(database));
    const good = join(folder, 'good');
    cpSync(database, good, { recursive: true });
    const journal = join(folder, 'good-journal');
    cpSync(join(folder, 'journal'), journal, { recursive: true });
    const state = readState(database)!;
    const files = readdirSync(good, { recursive: true, withFileTypes: true })
      .filter((e) => e.isFile() && statSync(join(e.parentPath, e.name)).size > 0)
      .map((e) => join(e.parentPath, e.name).slice(good.length + 1));
    for (let n = 0; n < cases; n++) {
      const file = files[Math.floor(random() * files.length)]!;
      const how = HARMS[n % HARMS.length]!;
      for (const [from, to] of [[good, database], [journal, join(folder, 'journal')]] as const) {
        rmSync(to, { recursive: true, force: true });
        cpSync(from, to, { recursive: true });
      } // prettier-ignore
      noteState(database, { ...state, closed: false });
      harm(join(database, file), how, random);
      const what = `${file} ${how}`;
      try {
        const again = await open();
        await again.close();
        counts.whole++;
      } catch (error) {
        const known = error instanceof Refusal && error.code === 'database-damaged' && error.facts.snapshot;
        if (!known) wrong.push(`${what}: ${errorOf(error).message.slice(0, 300)}`);
        counts.refused++;
        const folders = storeFolders(folder);
        await rebuild(folders, knownGood(folders), join(folder, `aside-${n}`), { migrations: migrationsIn(MIGRATIONS), empty: EMPTY }); // prettier-ignore
        rmSync(join(folder, `aside-${n}`), { recursive: true, force: true });
        await (await open()).close();
      }
      const rows = await rowsIn(database).then(JSON.stringify, (error: unknown) => String(error));
      if (rows !== expected) wrong.push(`${what}: rows are missing or changed (${rows.slice(0, 120)})`);
      if (n % 20 === 19) say(`${n + 1} files harmed, ${wrong.length} wrong`);
    }
    return { name: 'one file of the database harmed', times: cases, what: `${HARMS.join(', ')}, of ${files.length} files drawn by the seed: ${counts.whole} starts lost nothing, ${counts.refused} said what is known to be good and were restored from there`, wrong }; // prettier-ignore
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

if (process.argv[1] === import.meta.filename) {
  const seed = Number(process.env['FRUSTUM_TORTURE_SEED'] ?? Date.now() % 1_000_000);
  const [kills = 200, files = 150, every = 1] = process.argv.slice(2).map(Number);
  const say = (line: string) => void process.stdout.write(`${line}\n`);
  say(`seed ${seed}`);
  let failed = false;
  const told = ({ name, times, what, wrong }: Torn) => {
    say(`| ${name} | ${times} | ${what} | ${wrong.length ? wrong.length : 'nothing'} |`);
    for (const line of wrong) say(`  wrong: ${line}`);
    failed ||= wrong.length > 0;
  };
  if (kills) told(await tortureKills(kills, seed, { say }));
  if (every) told(await tortureJournal(every));
  if (files) told(await tortureFiles(files, seed + 1, say));
  process.exit(failed ? 1 : 0);
}

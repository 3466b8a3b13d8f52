import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it, vi } from 'vitest';
import type { BackupsView, Problem } from '@frustum/contract';
import { RESERVOIR } from './testing/cast.ts';
import { killServer, runCommand, startServer, type Running } from './testing/running.ts';

const parent = mkdtempSync(join(tmpdir(), 'frustum-backups-'));
const folder = join(parent, 'one');
const second = join(parent, 'two');
const file = join(parent, 'house.tar');
const running: Running[] = [];
afterAll(async () => {
  for (const one of running) await killServer(one);
  rmSync(parent, { recursive: true, force: true });
});

async function start(of: string): Promise<string> {
  const one = await startServer(of);
  running.push(one);
  return one.url;
}
const stop = () => killServer(running.pop()!);
async function ask<T>(url: string, method = 'GET', body?: unknown): Promise<T> {
  const raw = Buffer.isBuffer(body);
  const headers: Record<string, string> = { 'content-type': raw ? 'application/x-tar' : 'application/json' };
  const send = body === undefined ? {} : { headers, body: raw ? new Uint8Array(body) : JSON.stringify(body) };
  return (await (await fetch(url, { method, ...send })).json()) as T;
}
const addLoop = (url: string, loopName: string) => ask(`${url}/api/sensors`, 'POST', { ...RESERVOIR, loopName });
const loopsOf = async (url: string) =>
  (await ask<{ rows: { loopName: string }[] }>(`${url}/api/margins`)).rows.map((r) => r.loopName).sort();
const ready = (url: string) =>
  vi.waitFor(
    async () => {
      const view = await ask<BackupsView>(`${url}/api/backups`);
      expect(view.prepared!.state).not.toBe('building');
      return view;
    },
    { timeout: 120_000, interval: 100 },
  );

it('a backup is taken from the running server, restored into a second folder by command, and on the page’s address; the house before comes back', async () => {
  let url = await start(folder);
  await addLoop(url, 'First');
  expect(await runCommand('backup', folder, file)).toMatchObject({ code: 0 });
  expect(await runCommand('backup', folder, file)).toMatchObject({ code: 1, words: expect.stringContaining('is there already') as string }); // prettier-ignore
  await addLoop(url, 'Second');
  expect(await runCommand('restore', folder, file)).toMatchObject({ code: 1, words: expect.stringContaining('in use by process') as string }); // prettier-ignore

  // On the address that the page uses: built beside, counted, and put in its place.
  const taken = await ask<BackupsView>(`${url}/api/backups/prepared/file`, 'POST', readFileSync(file));
  expect(taken.prepared!.state).toBe('building');
  expect(await ask<Problem>(`${url}/api/backups/prepared/file`, 'POST', Buffer.from('x'))).toMatchObject({ code: 'preparing' }); // prettier-ignore
  const view = await ready(url);
  expect([view.counts.loops, view.prepared!.counts!.loops, await loopsOf(url)]).toEqual([2, 1, ['First', 'Second']]);
  const mark = (await fetch(`${url}/api/margins`)).headers.get('etag')!;
  await ask(`${url}/api/backups/switch`, 'POST');
  // Another house: no browser may take the answer that it has for this one's.
  expect((await fetch(`${url}/api/margins`, { headers: { 'if-none-match': mark } })).status).toBe(200);
  expect((await fetch(`${url}/api/margins`)).headers.get('etag')!.slice(0, 40)).not.toBe(mark.slice(0, 40));
  expect(await loopsOf(url)).toEqual(['First']);
  await addLoop(url, 'Third');
  const { setAside } = await ask<BackupsView>(`${url}/api/backups`);
  expect(setAside).toHaveLength(1);

  // Killed: what was written after the restore is there, and the way back as well.
  await stop();
  url = await start(folder);
  expect(await loopsOf(url)).toEqual(['First', 'Third']);
  await ask(`${url}/api/backups/set-aside/bring-back`, 'POST', { name: setAside[0]!.name });
  expect(await loopsOf(url)).toEqual(['First', 'Second']);
  await addLoop(url, 'Fourth');
  await stop();

  // Damaged: the command brings all of it back, though snapshots and a journal of another line lie beside.
  const control = join(folder, 'database/global/pg_control');
  writeFileSync(control, Buffer.alloc(8192));
  await expect(startServer(folder)).rejects.toThrow(/does not open.*Known to be good: the snapshot of .* UTC, and (one write|\d+ writes) in the journal after it\. “npm run restore”/s); // prettier-ignore
  expect(await runCommand('restore', folder)).toMatchObject({ code: 0, words: expect.stringMatching(/loops +3\n/) as string }); // prettier-ignore
  url = await start(folder);
  expect(await loopsOf(url)).toEqual(['First', 'Fourth', 'Second']);
  await stop();

  // Into a folder on another machine, by command.
  expect(await runCommand('restore', second, file)).toMatchObject({ code: 0, words: expect.stringMatching(/loops +1\n/) as string }); // prettier-ignore
});

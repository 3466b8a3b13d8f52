import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
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
  const headers = { 'content-type': 'application/json' };
  const send = body === undefined ? {} : { headers, body: JSON.stringify(body) };
  return (await (await fetch(url, { method, ...send })).json()) as T;
}
const addLoop = (url: string, loopName: string) => ask(`${url}/api/sensors`, 'POST', { ...RESERVOIR, loopName });
const loopsOf = async (url: string) =>
  (await ask<{ rows: { loopName: string }[] }>(`${url}/api/margins`)).rows.map((r) => r.loopName).sort();
it('a backup is taken from the running server and restored into a second folder by command; a damaged house is brought back', async () => {
  let url = await start(folder);
  await addLoop(url, 'First');
  expect(await runCommand('backup', folder, file)).toMatchObject({ code: 0 });
  expect(await runCommand('backup', folder, file)).toMatchObject({ code: 1, words: expect.stringContaining('is there already') as string }); // prettier-ignore
  await addLoop(url, 'Second');
  expect(await runCommand('restore', folder, file)).toMatchObject({ code: 1, words: expect.stringContaining('in use by process') as string }); // prettier-ignore

  await stop();

  // Damaged: the command brings all of it back, from a snapshot and the writes after it.
  const control = join(folder, 'database/global/pg_control');
  writeFileSync(control, Buffer.alloc(8192));
  await expect(startServer(folder)).rejects.toThrow(/does not open.*Known to be good: the snapshot of .* UTC, and (one write|\d+ writes) in the journal after it\. “npm run restore”/s); // prettier-ignore
  expect(await runCommand('restore', folder)).toMatchObject({ code: 0, words: expect.stringMatching(/loops +2\n/) as string }); // prettier-ignore
  url = await start(folder);
  expect(await loopsOf(url)).toEqual(['First', 'Second']);
  await stop();

  // Into a folder on another machine, by command.
  expect(await runCommand('restore', second, file)).toMatchObject({ code: 0, words: expect.stringMatching(/loops +1\n/) as string }); // prettier-ignore
});

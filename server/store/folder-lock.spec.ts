import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { lockFolder, type Holder } from './folder-lock.ts';

let folder: string;
const children: ChildProcess[] = [];
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'frustum-folder-'))));
afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});
const modeOf = (...path: string[]) => (statSync(join(folder, ...path)).mode & 0o777).toString(8);
const take = (shared?: () => boolean) => lockFolder(folder, '2026-11-23T09:00:00Z', 'http://localhost:1', shared);
const holder = () => JSON.parse(readFileSync(join(folder, 'holder.json'), 'utf8')) as Holder;
const pretend = (change: Partial<Holder>) =>
  writeFileSync(join(folder, 'holder.json'), JSON.stringify({ ...holder(), ...change }));

/** Another process that has the folder. */
async function another(): Promise<ChildProcess> {
  const script = join(import.meta.dirname, '../testing/hold-folder.ts');
  const child = spawn(process.execPath, ['--import', 'tsx', script, folder], { stdio: ['ignore', 'pipe', 'inherit'] });
  children.push(child);
  await once(child.stdout, 'data');
  return child;
}

describe.skipIf(process.platform === 'win32')('a data folder', () => {
  it('that was open to others is closed to them, with all that is in it', async () => {
    mkdirSync(join(folder, 'photos'));
    writeFileSync(join(folder, 'photos', 'one'), 'x');
    writeFileSync(join(folder, 'log-ins.json'), '{}');
    for (const path of ['.', 'photos']) chmodSync(join(folder, path), 0o777);
    for (const path of ['photos/one', 'log-ins.json']) chmodSync(join(folder, path), 0o666);
    const { unlock } = await take();
    const modes = [modeOf(), modeOf('photos'), modeOf('photos', 'one'), modeOf('log-ins.json'), modeOf('holder.json')];
    expect(modes).toEqual(['700', '700', '600', '600', '600']);
    await unlock();
  });

  it('is not taken from a holder that is suspended for however long, and is from one that was killed', async () => {
    const child = await another();
    child.kill('SIGSTOP');
    await expect(take()).rejects.toMatchObject({
      code: 'folder-in-use',
      message: expect.stringContaining(`process ${child.pid}`) as string,
    });
    child.kill('SIGKILL');
    await once(child, 'exit');
    const mine = await take();
    expect(holder().pid).toBe(process.pid);
    await mine.unlock();
  });

  it('is not taken from another container: its process cannot be seen, its socket answers', async () => {
    await another();
    pretend({ namespace: 'pid:[1]', pid: 1 });
    await expect(take()).rejects.toMatchObject({ code: 'folder-in-use' });
  });

  it('is never taken over across computers; after a restart of the same one it is', async () => {
    const first = await take();
    pretend({ host: 'pump-house', machine: 'another', boot: 'another', token: 'another' });
    await expect(take(() => true)).rejects.toMatchObject({
      code: 'folder-in-use',
      message: expect.stringMatching(/on pump-house.*If that computer does not run Frustum any more, remove .*holder\.json/) as string, // prettier-ignore
    });
    // The first one wakes up: the file names somebody else.
    expect(first.held()).toBe(false);
    await first.unlock();
    expect(holder().host).toBe('pump-house');
    // A disk that no other computer can reach.
    const second = await take(() => false);
    pretend({ boot: 'before' });
    const third = await take(() => true);
    expect([second.held(), third.held()]).toEqual([false, true]);
    await second.unlock();
    await third.unlock();
  });

  it('of a process whose number has come again is free', async () => {
    const first = await take();
    const before = holder();
    await first.unlock();
    writeFileSync(join(folder, 'holder.json'), JSON.stringify({ ...before, began: '1' }));
    const second = await take();
    expect(second.held()).toBe(true);
    await second.unlock();
  });
});

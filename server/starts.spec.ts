import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { killServer, startServer, type Running } from './testing/running.ts';

const folder = mkdtempSync(join(tmpdir(), 'frustum-starts-'));
const running: Running[] = [];
afterAll(async () => {
  for (const one of running) await killServer(one);
  rmSync(folder, { recursive: true, force: true });
});
const start = async (name: string, env: Record<string, string> = {}) => {
  const one = await startServer(join(folder, name), env);
  running.push(one);
  return one;
};

describe('a start that cannot be', () => {
  it('a second process on the same folder is refused with who holds it, and a busy port with a free one to try', async () => {
    const { url, pid } = await start('second');
    await expect(start('second')).rejects.toThrow(new RegExp(`in use by process ${pid}.*FRUSTUM_DATA`, 's'));
    const port = new URL(url).port;
    await expect(start('third', { PORT: port })).rejects.toThrow(new RegExp(`Port ${port} is in use.*PORT=`, 's'));
    await expect(start('fourth', { PORT: 'eighty' })).rejects.toThrow(/PORT is “eighty”/);
  });
});

import { chmodSync, mkdirSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, it } from 'vitest';
import { lockFolder } from './folder-lock.ts';

const folder = mkdtempSync(join(tmpdir(), 'frustum-folder-'));
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const modeOf = (...path: string[]) => (statSync(join(folder, ...path)).mode & 0o777).toString(8);

it.skipIf(process.platform === 'win32')(
  'a data folder that was open to others is closed to them, with all that is in it',
  async () => {
    mkdirSync(join(folder, 'photos'));
    writeFileSync(join(folder, 'photos', 'one'), 'x');
    writeFileSync(join(folder, 'log-ins.json'), '{}');
    for (const path of ['.', 'photos']) chmodSync(join(folder, path), 0o777);
    for (const path of ['photos/one', 'log-ins.json']) chmodSync(join(folder, path), 0o666);
    const unlock = await lockFolder(folder, '2026-11-23T09:00:00Z', 'http://localhost:1');
    expect([modeOf(), modeOf('photos'), modeOf('photos', 'one'), modeOf('log-ins.json')]).toEqual([
      '700',
      '700',
      '600',
      '600',
    ]);
    await unlock();
  },
);

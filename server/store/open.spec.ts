import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Refusal } from '@frustum/core';
import { readState } from './database-state.ts';
import { openStore, type OpenStore } from './open.ts';

const USER = { id: '00000000-0000-4000-8000-000000000001', name: 'Operator A', role: 'operator' as const };

describe('the database’s own thread', () => {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-thread-'));
  const told: (string | null)[] = [];
  let opened: OpenStore;
  beforeAll(async () => {
    const tell = (trouble: Refusal | null) => void told.push(trouble?.code ?? null);
    const options = { dataFolder: folder, migrations: join(import.meta.dirname, 'migrations') };
    opened = await openStore(new URL('../dist/store-worker.js', import.meta.url), options, tell);
  });
  afterAll(async () => {
    await opened.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('that ends is started again: what was under way is refused in words, what is asked from then on is answered', async () => {
    await opened.store.keepUsers([USER]);
    const underWay = opened.store.readLots();
    const refused = expect(underWay).rejects.toMatchObject({ code: 'store-away' });
    await opened.crash();
    await refused;
    expect(await opened.store.readLots()).toEqual([]);
    await vi.waitFor(() => expect(told).toEqual(['store-away', null]), { timeout: 60_000 });
  });

  it('that goes on ending stays away, and every question is answered in words', async () => {
    for (let i = 0; i < 3; i++) {
      await opened.store.readLots();
      await opened.crash();
    }
    await vi.waitFor(() => expect(told.at(-1)).toBe('store-gone'), { timeout: 60_000 });
    await expect(opened.store.readLots()).rejects.toMatchObject({ code: 'store-gone' });
  });
});

describe('a database folder that is not as it should be', () => {
  const parent = mkdtempSync(join(tmpdir(), 'frustum-damaged-'));
  const folder = join(parent, 'database');
  const options = { dataFolder: parent, migrations: join(import.meta.dirname, 'migrations') };
  const opens = () => openStore(new URL('../dist/store-worker.js', import.meta.url), options);
  afterAll(() => rmSync(parent, { recursive: true, force: true }));

  it('whose first start was cut short begins anew; what was finished is opened as it is', async () => {
    mkdirSync(join(folder, 'base'), { recursive: true });
    writeFileSync(join(folder, 'base', 'half'), 'x');
    writeFileSync(`${folder}.begun`, '');
    const first = await opens();
    await first.store.keepUsers([USER]);
    await first.thread.begun();
    await first.close();
    expect(readdirSync(parent)).toEqual(['database', 'database.state.json', 'journal']);
    const again = await opens();
    expect(await again.store.readLots()).toEqual([]);
    // The caller may move the files after closing: a thread that is just opening again is waited for.
    await again.crash();
    await again.close();
    expect(readState(folder)).toMatchObject({ closed: true });
  });

  it('without its version, or with a broken control file, is refused in words and left as it is: never an empty house', async () => {
    const version = join(folder, 'PG_VERSION');
    renameSync(version, `${version}.away`);
    const before = readdirSync(folder);
    await expect(opens()).rejects.toMatchObject({
      code: 'database-damaged',
      message: expect.stringMatching(/PG_VERSION is missing beside its files\. Nothing was removed from it\. Known to be good: the journal of one write since the beginning\. “npm run restore”/) as string, // prettier-ignore
    });
    expect(readdirSync(folder)).toEqual(before);
    renameSync(`${version}.away`, version);
    const control = join(folder, 'global', 'pg_control');
    const bytes = readFileSync(control);
    writeFileSync(control, Buffer.alloc(bytes.length));
    await expect(opens()).rejects.toMatchObject({ code: 'database-damaged' });
    writeFileSync(control, bytes);
    const mended = await opens();
    expect(await mended.store.readLots()).toEqual([]);
    await mended.close();
  });
});

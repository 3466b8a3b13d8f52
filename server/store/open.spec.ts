import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Refusal } from '@frustum/core';
import { openStore, type OpenStore } from './open.ts';

const USER = { id: '00000000-0000-4000-8000-000000000001', name: 'Operator A', role: 'operator' as const };

describe('the database’s own thread', () => {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-thread-'));
  const told: (string | null)[] = [];
  let opened: OpenStore;
  beforeAll(async () => {
    const tell = (trouble: Refusal | null) => void told.push(trouble?.code ?? null);
    const options = { folder: join(folder, 'database'), migrations: join(import.meta.dirname, 'migrations') };
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

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CATALOGUE } from '@frustum/core';
import { makeApp } from '../app.ts';
import { checkConfig } from '../config/config.ts';
import { makeContext, type Context } from '../context.ts';
import type { SystemClock } from '../services/running/system-clock.ts';
import { openStore } from '../store/open.ts';

export interface TestApplication {
  readonly context: Context;
  readonly app: ReturnType<typeof makeApp>;
  /** moves the clock that the services see */
  readonly setNow: (iso: string) => void;
  readonly close: () => Promise<void>;
}

/** The whole server on a database that passes, without a port and without a wire. */
export async function testApplication(
  options: { readonly handsUrl?: string; readonly clock?: SystemClock } = {},
): Promise<TestApplication> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-test-'));
  const { store, close } = await openStore(new URL('../dist/store-worker.js', import.meta.url), {
    dataFolder: null,
    migrations: join(import.meta.dirname, '../store/migrations'),
  });
  let nowMs = Date.parse('2026-11-23T09:00:00Z');
  const config = checkConfig({
    port: '0',
    host: undefined,
    data: folder,
    logLevel: 'silent',
    demoBundle: undefined,
    handsUrl: options.handsUrl,
    watchedMs: undefined,
    pollAlways: undefined,
    allow: undefined,
  });
  const { clock } = options;
  const context = makeContext(config, store, clock ? { clock } : { now: () => nowMs });
  await store.keepStandards(CATALOGUE);
  return {
    context,
    app: makeApp(context, null),
    setNow: (iso) => (nowMs = Date.parse(iso)),
    close: async () => {
      context.poller.stop();
      await close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

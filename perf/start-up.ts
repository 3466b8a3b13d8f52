import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium as chromiumHere } from '../scripts/lib/debian.mjs';
import { chromium } from '@playwright/test';
import type { MarginsView } from '@frustum/contract';
import { startApplication } from '../e2e/support/application.ts';
import { medianOf, type Figure } from './figure.ts';

const RUNS = 5;

const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;

/** Waits until a house has learned how its sensors drift: what it says of that has stayed the same for a while. */
async function learnedAt(url: string): Promise<void> {
  let [said, times] = ['', 0];
  while (times < 4) {
    const { rows } = (await (await fetch(`${url}/api/margins`)).json()) as MarginsView;
    const now = rows.map((r) => r.learnedFrom.sensors).join();
    times = now === said && /[1-9]/.test(now) ? times + 1 : 0;
    said = now;
    await new Promise((later) => setTimeout(later, 1000));
  }
}

/** How long until a settled install answers, and until the first page shows its sensors. */
export async function benchStart(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-bench-'));
  const first = performance.now();
  const settling = await startApplication({ demo: true, folder });
  const fresh = performance.now() - first;
  // A settled install has learned from its house, and kept that.
  await learnedAt(settling.url);
  await settling.stop();
  const starts: number[] = [];
  const pages: number[] = [];
  const margins: number[] = [];
  const browser = await chromium.launch({
    executablePath: chromiumHere() ?? '',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  for (let i = 0; i < RUNS; i++) {
    const at = performance.now();
    const application = await startApplication({ demo: true, folder });
    starts.push(performance.now() - at);
    // A new context: nothing in the browser's cache, as on a first visit.
    const page = await (await browser.newContext()).newPage();
    const opened = performance.now();
    await page.goto(application.url);
    await page.getByRole('row', { name: /Display pH, main/ }).waitFor();
    await page
      .getByRole('img', { name: /Display pH, main/ })
      .locator('path')
      .first()
      .waitFor();
    pages.push(performance.now() - opened);
    const asked = performance.now();
    await (await fetch(`${application.url}/api/margins`)).text();
    margins.push(performance.now() - asked);
    await page.context().close();
    await application.stop();
  }
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
  return [
    {
      what: 'settled install, command to answering (20 loops, 133 runs), limit 10 s',
      value: seconds(medianOf(starts)),
      beside: `the very first start, with new database and demo history: ${seconds(fresh)}`,
    },
    {
      what: 'first page, address to cones drawn, empty cache, limit 2 s',
      value: seconds(medianOf(pages)),
      beside: `GET /api/margins alone: ${medianOf(margins).toFixed(0)} ms`,
    },
  ];
}

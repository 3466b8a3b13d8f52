import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { chromium as chromiumHere } from '../scripts/lib/debian.mjs';
import { chromium, type Page } from '@playwright/test';
import request from 'supertest';
import type { RunOutcome } from '@frustum/core';
import type { MarginsView } from '@frustum/contract';
import { chance, seedOf } from '@frustum/sim';
import { makeApp } from '../server/app.ts';
import { testApplication, type TestApplication } from '../server/testing/application.ts';
import { KINDS, lived, placeOf } from './drift-truths.ts';
import { medianOf, type Figure } from './figure.ts';

const LOOPS = 1000;
const RUNS = 12;
const TIMES = 5;
const NOW = Date.parse('2026-11-25T09:00:00Z');
const FAMILIES = ['ph', 'orp', 'conductivity', 'temperature'] as const;
const SETTINGS: Readonly<Record<string, Record<string, number | string>>> = {
  orp: { reference: 'silver-chloride-3.5', scale: 'own' },
  conductivity: { cellConstant: 1, alpha: 2 },
};

/** Fills a house with loops of four families at ten sites, each with a year of runs: invented figures, no events behind them. */
export async function fillHouse(
  { context: { store } }: { readonly context: Pick<TestApplication['context'], 'store'> },
  { loops = LOOPS, runs = RUNS, seed = 7 } = {},
): Promise<void> {
  for (let i = 0; i < loops; i++) {
    const family = FAMILIES[i % FAMILIES.length]!;
    const place = placeOf(family);
    const dice = chance(seedOf(seed, `loop ${i}`));
    const { loopId, sensorId } = await store.addSensor({
      ids: { site: randomUUID(), loop: randomUUID(), sensor: randomUUID(), channel: randomUUID(), event: randomUUID() },
      by: 'Operator A',
      at: '2026-01-01T00:00:00Z',
      siteName: `House ${1 + (i % 10)}`,
      timeZone: 'UTC',
      loop: {
        name: `Loop ${i + 1} ${family}`,
        place: `Hall ${1 + (i % 25)}`,
        family,
        settings: SETTINGS[family] ?? {},
        workingValue: place.working.value,
        workingC: place.working.temperatureC,
        tolerance: 0.15 * (family === 'ph' ? 1 : family === 'orp' ? 100 : family === 'conductivity' ? 600 : 2),
        intervalDays: 30,
        controls: '',
        pointSet: [],
        referenceGroup: i % 8 < 2 ? `group ${Math.floor(i / 8)}` : '',
      },
      sensor: { name: `Sensor ${i + 1}`, serial: `S-${i + 1}`, fittedOn: '2025-11-01' },
      channel: { kind: 'hand' } as never,
      resolution: 0.1,
    });
    const { history } = lived(KINDS[i % KINDS.length]!, place, runs, seedOf(seed, `course ${i}`));
    const shift = NOW - Math.round(40 * dice.uniform()) * 86_400_000 - history.at(-1)!.atMs;
    await store.importRuns(
      history.map((o) => {
        const at = new Date(o.atMs + shift).toISOString();
        const outcome = {
          kind: 'calibration',
          action: 'adjust',
          sentence: 'Adjust it.',
          coefficients: o.found,
          covariance: o.covariance,
          asFound: { error: 0, uncertainty: 0 },
          asLeft: { error: 0, uncertainty: 0 },
          inForceBefore: o.inForceAfter,
          inForceAfter: o.inForceAfter,
          cleaned: false,
          t90: null,
          readBackShown: null,
        } as unknown as RunOutcome;
        return {
          run: { id: randomUUID(), sensorId, loopId, status: 'closed' as const, startedAt: at, endedAt: at, outcome },
          events: [],
        };
      }) as never,
    );
  }
}

/** Margins with a thousand loops: the first answer after a start, the next ones, and what a browser makes of them. */
export async function benchMargins(): Promise<Figure[]> {
  const application = await testApplication();
  application.setNow(new Date(NOW).toISOString());
  await fillHouse(application);
  const ask = async () => {
    const from = performance.now();
    const answer = await request(application.app).get('/api/margins');
    const ms = performance.now() - from;
    if ((answer.body as MarginsView).rows.length !== LOOPS) throw new Error('rows are missing');
    return { ms, megabytes: JSON.stringify(answer.body).length / 1e6 };
  };
  const first = await ask();
  const next: number[] = [];
  for (let i = 0; i < TIMES; i++) next.push((await ask()).ms);
  const { opened, drawn, found, linked } = await inBrowser(application);
  await application.close();
  return [
    {
      what: `Margins of ${LOOPS} loops with ${RUNS} runs each: from its link to rows that can be used, limit 1 s`,
      value: `${medianOf(linked).toFixed(0)} ms`,
      beside: `a first visit, address to rows with an empty cache ${medianOf(opened).toFixed(0)} ms, to their cones ${medianOf(drawn).toFixed(0)} ms; a loop found by typing its name: ${medianOf(found).toFixed(0)} ms`,
    },
    {
      what: 'the answer alone, asked for again',
      value: `${medianOf(next).toFixed(0)} ms`,
      beside: `${first.ms.toFixed(0)} ms the first time, which a start does by itself; ${first.megabytes.toFixed(1)} MB before compression`,
    },
  ];
}

/** Opens Margins by its address, finds a loop in it, leaves it and comes back by its link, as often as asked. */
async function inBrowser({
  context,
}: TestApplication): Promise<Record<'opened' | 'drawn' | 'found' | 'linked', number[]>> {
  const server = createServer(makeApp(context, join(import.meta.dirname, '../web/dist')));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const browser = await chromium.launch({
    executablePath: chromiumHere() ?? '',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  const opened: number[] = [];
  const drawn: number[] = [];
  const found: number[] = [];
  const linked: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    // A new context: nothing in the browser's cache, as on a first visit.
    const page = await (await browser.newContext()).newPage();
    const from = performance.now();
    await page.goto(url);
    const row = page.getByRole('row', { name: /Loop \d+ / }).first();
    await row.waitFor();
    opened.push(performance.now() - from);
    await coneIn(page, /^Loop \d+ /);
    drawn.push(performance.now() - from);
    const typed = performance.now();
    await page.getByRole('searchbox', { name: 'Find a loop' }).fill(`Loop ${LOOPS - i} `);
    await coneIn(page, new RegExp(`^Loop ${LOOPS - i} `));
    found.push(performance.now() - typed);
    await page.getByRole('link', { name: 'Reckoner' }).first().click();
    await page.getByRole('heading', { level: 1, name: 'Reckoner' }).waitFor();
    const left = performance.now();
    await page.getByRole('link', { name: 'Margins' }).first().click();
    await row.waitFor();
    linked.push(performance.now() - left);
    await page.context().close();
  }
  await browser.close();
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  return { opened, drawn, found, linked };
}

const coneIn = (page: Page, name: RegExp) => page.getByRole('img', { name }).first().locator('path').first().waitFor();

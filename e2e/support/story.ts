import { test as base, expect, type BrowserContext, type Page } from '@playwright/test';

export { expect, type Page };

/** What the screen says just now, in the words an operator would read out. */
async function believed(page: Page): Promise<string> {
  const texts = async (selector: string) => {
    const said = await page
      .locator(selector)
      .allInnerTexts()
      .catch(() => []);
    return said.map((text) => text.replace(/\s+/g, ' ').trim()).filter(Boolean);
  };
  const parts = {
    address: [page.url()],
    heading: await texts('h1'),
    step: await texts('li[aria-current=step]'),
    state: await texts('[data-testid=settling-state]'),
    shown: await texts('[data-testid=shown-value]'),
    movement: await texts('[data-testid=next-movement]'),
    alert: await texts('[role=alert]'),
    buttons: await texts('main button'),
  };
  return Object.entries(parts)
    .filter(([, said]) => said.length)
    .map(([name, said]) => `${name}: ${said.join(' | ')}`)
    .join('\n');
}

/** The open runs of the application that the page shows, with their events: what the server believed. */
async function openRuns(page: Page): Promise<string> {
  const base = new URL(page.url()).origin;
  const json = async (path: string): Promise<unknown> => (await page.request.get(base + path)).json();
  const open = (await json('/api/runs')) as { runId: string }[];
  return JSON.stringify(await Promise.all(open.map(({ runId }) => json(`/api/runs/${runId}`))), null, 1);
}

/** Forgets what a story left in the browser, but keeps the parts of the application that were fetched. */
async function forget(context: BrowserContext): Promise<void> {
  await context.setOffline(false);
  await context.clearCookies();
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  for (const origin of origins)
    await session.send('Storage.clearDataForOrigin', { origin, storageTypes: 'local_storage,indexeddb' });
  await page.close();
}
/** Addresses that stories of this worker have opened. */
const origins = new Set<string>();

interface OfAStory {
  readonly tellsWhatItBelieved: void;
}
interface OfAWorker {
  /** one browser window for all stories of a worker: they need not fetch and compile the application again and again */
  readonly shared: BrowserContext;
}

/** A story: when it fails, it tells what the application believed, and keeps the events of the runs that are open. */
export const test = base.extend<OfAStory, OfAWorker>({
  shared: [
    async ({ browser }, use, { project }) => {
      const { viewport, timezoneId, locale } = project.use;
      const context = await browser.newContext({ viewport, timezoneId, locale });
      context.on('page', (page) =>
        page.on('framenavigated', (frame) => {
          if (frame === page.mainFrame() && frame.url().startsWith('http')) origins.add(new URL(frame.url()).origin);
        }),
      );
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ shared, isMobile, browser, viewport, hasTouch, timezoneId, locale }, use) => {
    if (isMobile) {
      const own = await browser.newContext({ viewport, isMobile, hasTouch, timezoneId, locale });
      await use(own);
      return own.close();
    }
    await use(shared);
    await Promise.all(shared.pages().map((page) => page.close()));
    await forget(shared);
  },
  tellsWhatItBelieved: [
    async ({ page }, use, info) => {
      await use();
      if (info.status === info.expectedStatus || page.isClosed()) return;
      console.log(`What the application believed when “${info.title}” failed:\n${await believed(page)}`);
      const body = await openRuns(page).catch((error: unknown) => `not to be had: ${String(error)}`);
      await info.attach('open-runs.json', { body, contentType: 'application/json' });
    },
    { auto: true },
  ],
});

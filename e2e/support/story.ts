import { test as base, expect, type Page } from '@playwright/test';

export { expect, type Page };

/** What the screen says just now, in the words an operator would read out. */
async function believed(page: Page): Promise<string> {
  const texts = async (selector: string) =>
    (
      await page
        .locator(selector)
        .allInnerTexts()
        .catch(() => [])
    )
      .map((t) => t.replace(/\s+/g, ' ').trim())
      .filter(Boolean);
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
  const open = (await (await page.request.get(`${base}/api/runs`)).json()) as { runId: string }[];
  const runs = await Promise.all(
    open.map(async ({ runId }) => (await page.request.get(`${base}/api/runs/${runId}`)).json()),
  );
  return JSON.stringify(runs, null, 1);
}

/** A story: when it fails, it tells what the application believed, and keeps the events of the runs that are open. */
export const test = base.extend<{ tellsWhatItBelieved: void }>({
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

import { nothingForAxe } from '../support/axe.ts';
import { Operator } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

test('a dropped connection keeps what was done and sends it when it is back, once', async ({ page, context }) => {
  const operator = new Operator(page);
  // What judges the settling is cut off on its way.
  let cutOff = 0;
  const judge = /settling\.worker/;
  await page.route(judge, (route) => (cutOff++, route.abort()));
  await operator.starts('Multi-probe pH');
  await expect(operator.step).toContainText('Probe out');
  await context.setOffline(true);
  await operator.confirms(/It is out and rinsed/);
  // The screen goes on without the server, and says so.
  await expect(operator.step).toContainText('Into a fresh cup of 7.00');
  await expect(page.getByText(/kept here, server away/)).toBeVisible();
  await operator.confirms(/It is in the cup/);
  await expect(operator.step).toContainText('Settle in 7.00');
  await context.setOffline(false);
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  // It comes by itself, and the screen has stood meanwhile.
  await expect.poll(() => cutOff).toBeGreaterThan(0);
  await expect(page.getByTestId('settling-state')).toContainText('Waiting for the first samples.');
  await page.unroute(judge);
  await expect(page.getByRole('img', { name: /^Live trace/ })).toBeVisible();
  await page.reload();
  await expect(operator.step).toContainText('Settle in 7.00');

  // Back to a step: what followed it is open again. Then abandoned with a reason, and kept.
  await page.getByRole('button', { name: 'Into a fresh cup of 7.00' }).click();
  await page.getByRole('button', { name: 'Go back to this step' }).click();
  await expect(operator.step).toContainText('Into a fresh cup of 7.00');
  await page.getByRole('button', { name: 'Abandon' }).click();
  await page.getByLabel('Abandon this run?').getByRole('textbox').fill('Called away');
  await page.getByRole('button', { name: 'Abandon the run' }).click();
  await expect(page.getByRole('heading', { name: 'Abandoned.' })).toBeVisible();
  await page.getByRole('link', { name: 'See the sensor' }).click();
  await expect(page.getByRole('region', { name: 'Runs' })).toContainText('abandoned');
});

test('two screens see one run: a decision made on an old picture is refused with the difference', async ({
  page,
  browser,
}) => {
  const operator = new Operator(page);
  await operator.starts('Display pH, backup');
  const second = new Operator(await (await browser.newContext()).newPage());
  await second.page.goto(page.url());
  await expect(second.step).toContainText('Probe out');
  await operator.confirms(/It is out and rinsed/);
  await expect(second.step).toContainText('Into a fresh cup');
  const runId = page.url().split('/').at(-1)!;
  const abandons = (counter: number, onSeq: number, because: string) =>
    page.request.post(new URL(`/api/runs/${runId}/events`, page.url()).href, {
      data: {
        events: [
          {
            device: 'an-old-phone',
            counter,
            at: new Date().toISOString(),
            onSeq,
            body: { type: 'abandoned', because },
          },
        ],
      },
    });
  const answer = await abandons(1, 1, 'I saw it at the first step');
  expect(answer.status()).toBe(409);
  expect(await answer.json()).toMatchObject({ code: 'run-moved', facts: { onSeq: 1, seq: 2 } });
  // Seen again it may; and the bench is free for other stories.
  expect((await abandons(2, 2, 'I see where it is')).status()).toBeLessThan(300);
  await second.page.context().close();
});

test('a screen that could not be fetched says so and is there once it is loaded again', async ({ page }) => {
  const operator = new Operator(page);
  const part = /reckoner-page/;
  await page.route(part, (route) => route.abort());
  await operator.opens();
  await page.getByRole('link', { name: 'Reckoner' }).click();
  await expect(page.getByRole('heading', { name: 'A part of this screen did not arrive.' })).toBeVisible();
  await page.unroute(part);
  await page.getByRole('button', { name: 'Load it again' }).click();
  await expect(page.getByRole('link', { name: 'Buffer at a temperature' })).toBeVisible();
});

test('what the server does not give is said with a way on, and is there once it is asked again', async ({ page }) => {
  const operator = new Operator(page);
  await page.route('**/api/procedures', (route) => route.abort());
  await operator.opens('/set-up/procedures');
  await expect(page.getByRole('alert')).toContainText('server does not answer');
  await expect(page.getByRole('link', { name: 'Back to Margins' })).toBeVisible();
  await nothingForAxe(page, 'nothing came');
  await page.unroute('**/api/procedures');
  await page.getByRole('button', { name: 'Ask again' }).click();
  await expect(page.getByRole('heading', { name: 'Procedures of your own' })).toBeVisible();
});

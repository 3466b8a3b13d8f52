import type { RunView } from '@frustum/contract';
import { houseOfItsOwn, type Application } from '../support/application.ts';
import { Operator, toNumber } from '../support/operator.ts';
import { hiddenTruth } from '../support/truth.ts';
import { expect, test, type Page } from '../support/story.ts';

/** A house of its own: pulling plugs would disturb the other stories. */
let application: Application;
test.beforeAll(async () => {
  application = await houseOfItsOwn();
});
test.afterAll(() => application.stop());

const stateLine = (page: Page) => page.getByTestId('settling-state');
const shown = async (page: Page) => toNumber(await page.getByTestId('shown-value').innerText());

test('devices lose their power, then the server does: stale at once, live again by itself, and the run goes on', async ({
  page,
}) => {
  const operator = new Operator(page, application.url);
  await operator.starts('Remineralised line pH');
  await operator.moves('Rinse');
  await operator.confirms(/It is out and rinsed/);
  await operator.moves('Cup 7.00');
  await operator.confirms(/It is in the cup/);
  await expect(operator.step).toContainText('Settle in 7.00');
  await expect.poll(() => shown(page)).toBeGreaterThan(6.5);

  const plugIn = await application.pullPlug();
  await expect(stateLine(page)).toContainText('No live value.');
  await expect(stateLine(page)).toContainText(/nothing listens on that port|no answer|closed/);
  await expect(page.getByRole('button', { name: /^Capture −?\d/ })).toHaveCount(0);
  await plugIn();
  await expect(stateLine(page)).not.toContainText('No live value.');

  const startAgain = await application.killServer();
  await expect(stateLine(page)).toContainText('No live value.');
  await expect(stateLine(page)).toContainText('No connection to Frustum’s server');
  await startAgain();
  await expect(stateLine(page)).not.toContainText('No live value.');

  // The same run, at the same step, with the probe still in its cup: it goes on to the next.
  await expect(operator.step).toContainText('Settle in 7.00');
  await operator.settles('7.00');
  await expect(operator.step).toContainText('into fresh 10.01');
  const runId = page.url().split('/').at(-1)!;
  const run = (await (await page.request.get(`${application.url}/api/runs/${runId}`)).json()) as RunView;
  const captured = run.events.flatMap(({ body }) => (body.type === 'captured' ? [body.capture] : []));
  // Twice in the cup, before and after a wiggle: its own zero, within what 7.02 to 7.06 makes of it.
  expect(captured.length).toBeGreaterThan(1);
  const { zeroMv } = hiddenTruth('Remineralised line pH');
  expect(Math.abs(captured.at(-1)!.signal - zeroMv)).toBeLessThan(4.5);
  for (const { signal, trace } of captured) {
    // Before the wiggle a bubble may have sat on it.
    expect(Math.abs(signal - zeroMv)).toBeLessThan(13);
    // Nothing of the time in which nobody measured stands in the trace as a reading.
    expect(trace.every((s) => Math.abs(s.signal) < 60)).toBe(true);
  }
});

test('a fault that is switched on at the stand-in is seen: on the bench, beside the loop, and gone when it is off', async ({
  page,
}) => {
  const operator = new Operator(page, application.url);
  await operator.opens();
  const row = page.getByRole('row').filter({ hasText: 'Display pH, main' });
  await expect(row).toContainText(/· [78]\.\d\d/);
  await operator.starts('Display pH, main');
  await operator.confirms(/It is on hold/);
  await operator.moves('Rinse');
  await operator.confirms(/It is out and rinsed/);
  await operator.moves('Cup 7.00');
  await operator.confirms(/It is in the cup/);
  const hands = page.getByRole('group', { name: 'Stand-in’s hands' });
  await hands.getByText('Care, boxes and faults').click();
  await hands.getByLabel('box, mV').fill('177,5');
  await hands.getByRole('button', { name: 'Plug the box in' }).click();
  await expect(hands).toContainText('a box is plugged in instead of the probe (177.5)');
  // 177.5 mV is three pH units below zero: about 4.0, whatever the cup.
  await expect.poll(() => shown(page)).toBeLessThan(4.3);
  await hands.getByLabel('box, mV').fill('9000');
  await expect(hands.getByRole('button', { name: 'Plug the box in' })).toBeDisabled();
  await hands.getByRole('button', { name: 'Probe back in' }).click();
  await expect.poll(() => shown(page)).toBeGreaterThan(6.5);
  await hands.getByLabel('What goes wrong').selectOption('thermometer off');
  await expect(hands).toContainText('the shown temperature is wrong by a constant');
  await hands.getByRole('button', { name: 'Switch it on' }).click();
  await expect(hands).toContainText('Switched on: thermometer off, 70 %.');
  await hands.getByRole('button', { name: 'Switch it off' }).click();
  await expect(hands).not.toContainText('Switched on');
});

import type { RunView, SensorView } from '@frustum/contract';
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

test('devices, server and both lose their power in every kind of step: nothing from before is live, and the run goes on', async ({
  page,
}) => {
  const operator = new Operator(page, application.url);
  const truth = hiddenTruth('Line 2 pH');
  const state = stateLine(page);
  const capture = page.getByRole('button', { name: /^Capture −?\d/ });
  /** Server and devices at once. */
  const powerCut = async (atStep: string) => {
    const [plugIn, startAgain] = [await application.pullPlug(), await application.killServer()];
    await plugIn();
    await startAgain();
    await expect(operator.step).toContainText(atStep);
    await expect(page.getByText('server away')).toHaveCount(0);
  };
  // While it waits, while hands are asked for a hold, and on the way to a cup.
  await operator.opensBench('Line 2 pH');
  await operator.changes();
  await page.getByLabel('The sensor is').selectOption('stored dry');
  await operator.confirms(/Start the run/);
  await expect(page.getByRole('timer')).toBeVisible();
  await powerCut('Soak');
  await page.getByRole('button', { name: 'Pass over this step' }).click();
  await page.getByLabel('Why it is passed over').fill('it stood in KCl');
  await page.getByRole('button', { name: 'Pass over it' }).click();
  await powerCut('Put acid dosing on hold');
  await operator.confirms(/It is on hold/);
  await operator.moves('Rinse');
  await operator.confirms(/It is out and rinsed/);
  await powerCut('Into a fresh cup of 7.00');
  await operator.moves('Cup 7.00');
  await operator.confirmsAndWillPress(/It is in the cup/);

  // The devices alone: at fault at once, in words, and live again by themselves, with a clock that began anew.
  await expect.poll(() => shown(page)).toBeGreaterThan(6.5);
  const plugIn = await application.pullPlug();
  await expect(state).toContainText('No live value.');
  await expect(state).toContainText(/nothing listens on that port|no answer|closed/);
  await expect(capture).toHaveCount(0);
  await plugIn();
  await expect(state).not.toContainText('No live value.');
  await expect(state).toContainText(
    /The device was restarted or its clock set at \d\d:\d\d\. Settling begins again here\./,
  );

  // Both, while it is steady: somebody moves the probe in the dark. What was steady is not offered again.
  await expect(capture).toBeVisible();
  await powerCut('Settle in 7.00');
  await operator.moves('Cup 4.01');
  await expect(state).toContainText(/The server was restarted at \d\d:\d\d\. Settling begins again here\./);
  await expect(page.getByRole('alert')).toContainText('This reads like 4.01, not 7.00');
  await expect(capture).toHaveCount(0);
  await operator.rinsesInto('Cup 7.00');
  await operator.confirms(/Cup changed/);
  await expect(state).not.toContainText('begins again');
  await expect(capture).toBeVisible();
  await capture.click();

  // The server alone, while a wiggle is asked for.
  await expect(operator.step).toContainText('iggle');
  const startAgain = await application.killServer();
  await expect(state).toContainText('No connection to Frustum’s server');
  await startAgain();
  await operator.wigglesUntilAlike();
  await expect(operator.step).toContainText('into fresh 4.01');
  await operator.rinsesInto('Cup 4.01');
  await operator.confirmsAndSettles(/It is in the cup/);

  await expect(page.getByTestId('verdict')).toContainText('Adjust it: first calibration');
  await powerCut('Verdict');
  await operator.confirms(/^Adjust it/);
  await powerCut('Adjust the channel');
  await operator.confirmsAndCaptures(/Write and read back/);
  await operator.moves('Water');
  await operator.returns(/Back in the water, hold released/);
  await expect(page.getByTestId('next-due')).toContainText('in 30 days');
  expect(Math.abs((await operator.readBack()) - 4.0)).toBeLessThan(0.03);

  const runId = page.url().split('/').at(-1)!;
  const run = (await (await page.request.get(`${application.url}/api/runs/${runId}`)).json()) as RunView;
  const { outcome } = (
    (await (await page.request.get(`${application.url}/api/sensors/${run.sensorId}`)).json()) as SensorView
  ).runs.find((r) => r.runId === runId)!;
  expect(Math.abs(outcome!.coefficients.zero - truth.zeroMv)).toBeLessThan(1.5);
  expect(Math.abs(outcome!.coefficients.sensitivity - truth.slope)).toBeLessThan(0.01);
  const captured = run.events.flatMap(({ body, at }) => (body.type === 'captured' ? [{ ...body.capture, at }] : []));
  expect(captured.length).toBeGreaterThanOrEqual(5);
  for (const { method, sampledAt, at, trace } of captured) {
    expect(method).toBe('live');
    expect(Date.parse(at) - Date.parse(sampledAt!)).toBeLessThan(15_000);
    // One clock, that never ran back: nothing of two lives stands in one trace.
    expect(trace.slice(1).every((s, i) => s.t > trace[i]!.t)).toBe(true);
  }

  // And while a value is to be entered: what the water gave when the sample was drawn is kept.
  await operator.startsBy('Line 2 pH', 'Grab sample');
  await operator.captures();
  const keptReading = page.getByText('The reading kept with it:');
  const drawn = toNumber(await keptReading.innerText());
  expect(Math.abs(drawn - 5.9)).toBeLessThan(0.3);
  await powerCut('What did the lab find?');
  expect(toNumber(await keptReading.innerText())).toBe(drawn);
  await page.getByRole('textbox', { name: 'Found' }).fill(drawn.toFixed(2));
  await page.getByRole('textbox', { name: 'Its ±, k = 2' }).fill('0.04');
  await page.getByRole('textbox', { name: 'Measured at' }).fill('21');
  await operator.confirms(/Hold it against the reading/);
  await operator.confirms(/^Leave it/);
  await operator.confirms(/^Finish the run/);
  const now = page.getByRole('region', { name: 'Now' });
  await expect(now.getByRole('row').filter({ hasText: 'As found, off at 5.9' })).toContainText(/[+−]?0\.0\d ±/);
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

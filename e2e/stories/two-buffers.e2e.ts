import { Operator, url } from '../support/operator.ts';
import { hiddenTruth } from '../support/truth.ts';
import { expect, test } from '../support/story.ts';

/**
 * The whole path: hold, wrong cup first and noticed, disturbed once, both buffers, verdict, adjustment written and read
 * back, back in the water, hold released, and the cone and the due date changed.
 */
test('a probe that was never calibrated goes over the bench to its next due date', async ({ page, request }) => {
  const operator = new Operator(page);
  const truth = hiddenTruth('Line 2 pH');
  await operator.opens();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/needs? hands today/);
  const row = page.getByRole('row').filter({ hasText: 'Line 2 pH' });
  await expect(row).toContainText('not known');
  await expect(row).toContainText('First run');

  await row.getByRole('link', { name: 'Bench for Line 2 pH' }).click();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await expect(operator.step).toContainText('Put acid dosing on hold');
  await expect(operator.step).toContainText('overdose');
  await operator.confirms(/It is on hold/);
  await expect(page.getByLabel('Tray')).toContainText('Acid dosing on hold');
  await operator.moves('Rinse');
  await operator.confirms(/It is out and rinsed/);

  // The wrong cup first: it is noticed before anything is captured.
  await operator.moves('Cup 4.01');
  await operator.confirmsAndWillPress(/It is in the cup/);
  await expect(page.getByRole('alert')).toContainText('This reads like 4.01, not 7.00', { timeout: 60_000 });
  await expect(page.getByRole('button', { name: /^Capture/ })).toHaveCount(0);
  await operator.rinsesInto('Cup 7.00');
  await operator.confirms(/Cup changed/);

  // A reload in the middle comes back to the same step, with its trace.
  await page.reload();
  await expect(operator.step).toContainText('Settle in 7.00');
  await expect(page.getByTestId('shown-value')).toHaveText(/\d\.\d\d/);

  // Disturbed once: it settles again, and the run goes on.
  await operator.confirms(/Disturbed/);
  await expect(page.getByText(/Disturbed (once|\d times)/)).toBeVisible();
  await operator.settles('7.00');
  await operator.rinsesInto('Cup 4.01');
  await operator.confirmsAndSettles(/It is in the cup/);

  // The figures on screen are the simulator's truth within what the run itself states.
  await expect(page.getByTestId('verdict')).toContainText('Adjust it: first calibration');
  expect(Math.abs((await operator.figure('Zero')) - truth.zeroMv)).toBeLessThan(1.5);
  expect(Math.abs((await operator.figure('Slope')) - 100 * truth.slope)).toBeLessThan(1);
  const off = await operator.figure('As found, off at 5.9');
  // Closed form: a channel that believes 0 mV and 100 % shows 7 − (zero − slope·k·(5.9 − 7))/k at 21 °C, k = 58.37.
  const expected = 7 - (truth.zeroMv - truth.slope * 58.37 * (5.9 - 7)) / 58.37 - 5.9;
  expect(Math.abs(off - expected)).toBeLessThan(0.03);
  await page.getByText('Why: the figures behind it').click();
  await expect(page.getByText('liquid junction, buffer to sample')).toBeVisible();

  await operator.confirms(/^Adjust it/);
  await operator.confirmsAndCaptures(/Write and read back/);
  await operator.moves('Water');
  await operator.returns(/Back in the water, hold released/);

  await expect(page.getByTestId('next-due')).toContainText('in 30 days');
  expect(Math.abs((await operator.readBack()) - 4.0)).toBeLessThan(0.03);
  await expect(page.getByLabel('Tray').getByText('Acid dosing on hold')).toHaveCount(0);
  await page.getByRole('link', { name: 'Back to Margins' }).click();
  await expect(row).toContainText('inside');
  await expect(row).toContainText('in 30 days');
  await expect(row.getByRole('img', { name: /^Line 2 pH: inside, off by −?0\.0/ })).toBeVisible();

  // The transmitter holds what was written, and the sensor's page shows it as in force.
  await row.getByRole('link', { name: 'Line 2 pH', exact: true }).click();
  await expect(page.getByText('In force: zero, slope').locator('xpath=following-sibling::dd')).toContainText('mV');
  const margins = (await (await request.get(`${url()}/api/margins`)).json()) as {
    rows: { loopName: string; inForce: { zero: number } }[];
  };
  const inForce = margins.rows.find((r) => r.loopName === 'Line 2 pH')!.inForce;
  expect(Math.abs(inForce.zero - truth.zeroMv)).toBeLessThan(1.5);
});

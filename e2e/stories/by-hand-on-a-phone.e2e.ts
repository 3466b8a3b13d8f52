import { Operator, toNumber } from '../support/operator.ts';
import { expect, test, type Page } from '../support/story.ts';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

/** A trace as a logger writes it: semicolons, decimal commas, a heading. The approach is a closed form. */
function loggerTrace(final: number): string {
  const rows = Array.from(
    { length: 200 },
    (_, i) => `${i};${(final - 60 * Math.exp(-i / 8)).toFixed(1).replace('.', ',')};24,5`,
  );
  return ['Zeit s;mV;°C', ...rows].join('\n');
}

async function types(page: Page, reading: string, temperature: string): Promise<void> {
  await page.getByLabel('Reading', { exact: true }).fill(reading);
  await page.getByLabel('Temperature', { exact: true }).fill(temperature);
  await page.getByRole('button', { name: 'Capture typed value' }).click();
}

/** One's own probe today: no wire, wet hands, a phone. */
test('a sensor is set up with four answers and calibrated with typed values and a recorded trace', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens('/set-up/add');
  await page.getByRole('combobox', { name: 'Site' }).fill('Tidewater House');
  await page.getByRole('textbox', { name: 'Loop' }).fill('Quarantine pH');
  await page.getByLabel('Works at, pH').fill('61');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByText(/Working value 61 pH is outside -?\d+ to 1\d pH/)).toBeVisible();
  await page.getByLabel('Works at, pH').fill('6,2');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByRole('heading', { name: 'Quarantine pH' })).toBeVisible();

  await page.getByRole('link', { name: 'To the bench' }).click();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is out and rinsed/);
  await operator.confirms(/It is in the cup/);

  // Slips are refused with value, limit and way out, and what was typed stays.
  await types(page, '70.4', '24.5');
  await expect(page.getByRole('alert')).toContainText('Is the comma where it belongs?');
  await expect(page.getByRole('alert')).toContainText('7.04 would fit');
  await page.getByRole('button', { name: 'It is 70.4' }).click();
  await expect(page.getByRole('alert')).toContainText(/Value 70\.4 pH is outside -?\d+ to 1\d pH/);
  await expect(page.getByLabel('Reading', { exact: true })).toHaveValue('70.4');
  await types(page, '7.04', '76');
  // It may be in the other unit: that is asked before its table refuses it.
  await expect(page.getByRole('alert')).toContainText('76 °F is 24.4 °C');
  await page.getByRole('button', { name: 'It is 76 °C' }).click();
  await expect(page.getByRole('alert')).toContainText('76 °C is outside the table of 7.00 (0 to 50 °C)');
  await page.getByRole('button', { name: 'Count 15 s' }).click();
  await expect(page.getByRole('group', { name: 'Hand count' })).toContainText(/[1-9]/);
  await page.getByLabel('Temperature, unit').selectOption('°F');
  await types(page, '7.04', '76.1');
  await expect(operator.step).toContainText('into fresh 4.01');
  await operator.confirms(/It is in the cup/);

  // A bad row is named by line and column, and nothing is half-imported.
  const file = page.getByLabel('Recorded trace');
  await file.setInputFiles({
    name: 'bad.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`${loggerTrace(168)}\n200;oops;24,5`),
  });
  await expect(page.getByRole('alert')).toContainText('line 202, column 2');
  await expect(page.getByRole('button', { name: /Capture from/ })).toHaveCount(0);
  await file.setInputFiles({ name: 'good.csv', mimeType: 'text/csv', buffer: Buffer.from(loggerTrace(168)) });
  await expect(page.getByText('200 samples of mV')).toBeVisible();
  await page.getByRole('button', { name: 'Capture from good.csv' }).click();

  // 7.04 typed at 24.5 °C is −2.3 mV for a channel of 0 mV and 100 %; the trace ends at 168.0 mV. Worked by hand with
  // 7.002 and 4.009 at 24.5 °C and k = 59.06: slope 170.4 / (59.06 · 2.993) = 96.4 %, zero −2.3 mV.
  await expect(page.getByTestId('verdict')).toContainText('Adjust it');
  expect(Math.abs((await operator.figure('Slope')) - 96.4)).toBeLessThan(0.3);
  expect(Math.abs((await operator.figure('Zero')) - -2.3)).toBeLessThan(0.3);
  await operator.confirms(/^Adjust it/);
  await expect(page.getByRole('heading', { name: 'Enter these figures at the controller' })).toBeVisible();
  await operator.confirms(/I entered them/);
  await types(page, '4.01', '24.5');
  await operator.confirms(/Back in the water/);
  await expect(page.getByTestId('next-due')).toContainText('in 30 days');
  const asLeft = page.getByRole('row').filter({ hasText: 'As left, off at 6.2' });
  expect(Math.abs(toNumber(await asLeft.innerText().then((t) => t.replace(/.*6\.2/, ''))))).toBeLessThan(0.01);
  // Nothing sticks out sideways on a phone.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

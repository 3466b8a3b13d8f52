import { Operator, toNumber } from '../support/operator.ts';
import { expect, test, type Page } from '../support/story.ts';

/** The sum in the middle: its big figure, and what stands in its fields. */
const answer = async (page: Page) => toNumber(await page.getByTestId('answer').innerText());
const field = (page: Page, name: string) => page.getByRole('textbox', { name, exact: false });

/** Types a word into the finder and opens the first sum; the focus is then in its first field. */
async function looksFor(page: Page, words: string, title: string): Promise<void> {
  await expect(page.getByLabel('A figure with its unit, or a word')).toBeFocused();
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: title })).toBeVisible();
  await expect(page.locator('input[id^=field-]').first()).toBeFocused();
}

/** Back to the finder, which is emptied for the next question. */
async function back(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
}

test('six sums of the bench by keyboard alone, each with its formula, its source and its ±', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('g');
  await page.keyboard.press('r');

  // Buffer value at 23.4 °C: between 7.02 at 20 and 7.00 at 25 °C.
  await looksFor(page, 'buffer at', 'Buffer at a temperature');
  await page.keyboard.type('23.4');
  await expect(page.getByTestId('formula')).toContainText('23.4 °C');
  expect(await answer(page)).toBeCloseTo(7.006, 2);
  await expect(page.getByText('±0.02', { exact: true })).toBeVisible();

  // EC of 1.9 in the ×700 scale.
  await back(page);
  await looksFor(page, 'ec ppm', 'EC, CF and the ppm scales');
  await page.keyboard.type('1.9');
  await expect(field(page, 'ppm, ×700 scale')).toHaveValue('1330');
  await expect(field(page, 'ppm, ×500 scale')).toHaveValue('950');

  // Salinity and gravity from 51.2 mS/cm at 24 °C; TEOS-10's library says 34.3736.
  await back(page);
  await looksFor(page, 'gravity', 'Salinity and specific gravity of seawater');
  await page.keyboard.type('51.2');
  await page.keyboard.press('Tab');
  await page.keyboard.type('24');
  await expect(page.getByTestId('answer')).toHaveText('34.374');
  await expect(field(page, 'Specific gravity 25/25')).toHaveValue('1.02590');
  await expect(page.getByText('UNESCO Technical Papers')).toBeVisible();

  // The box for 18 MΩ·cm: the figure with its unit is enough.
  await back(page);
  await page.keyboard.type('18 MΩ·cm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Resistance box for a resistivity' })).toBeVisible();
  await expect(page.getByTestId('answer')).toHaveText('180');

  // Expected mV at pH 8.2, 31 °C and 96 %: 0.96 · 60.350 · 1.2 below zero.
  await back(page);
  await looksFor(page, 'millivolts', 'Millivolts and pH of an electrode');
  await page.keyboard.type('8.2');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.type('31');
  await page.keyboard.press('Tab');
  await page.keyboard.type('96');
  await expect(page.getByTestId('answer')).toHaveText('−69.5');
  await expect(page.getByTestId('formula')).toContainText('60.350');

  // Chloride activity of 0.01 mol/L KCl.
  await back(page);
  await looksFor(page, 'activity', 'Activity of an ion in a prepared standard');
  await page.keyboard.type('0.01');
  expect(await answer(page)).toBeCloseTo(319.63, 1);

  // The last ones are kept, also over a reload, and one is put back with the arrow keys and Enter.
  const last = page.getByRole('region', { name: 'Last sums' });
  await expect(last.getByRole('listitem').first()).toContainText('319.63');
  await page.reload();
  await expect(last.getByRole('listitem').filter({ hasText: '34.374' })).toBeVisible();
  await last.getByRole('button', { name: /34\.374/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('answer')).toHaveText('34.374');
});

test('a sum turns round when one types into its answer, reads units, and refuses with the way out', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opens('/reckoner/salinity');
  await field(page, 'Specific gravity 25/25').fill('1.02637');
  // A gravity of five decimals is S 35 to the nearest 0.007.
  await expect(field(page, 'Practical salinity')).toHaveValue('34.996');
  await field(page, 'Temperature').fill('77 F');
  await expect(page.getByText('= 25 °C')).toBeVisible();
  // 53.07 mS/cm is what water of 35.00 has at 25 °C.
  expect(Math.abs(toNumber(await field(page, 'Conductivity').inputValue()) - 53.07)).toBeLessThan(0.02);

  await field(page, 'Conductivity').fill('90');
  await expect(page.getByText(/outside the scale \(0 to 42\)\. Use conductivity itself/)).toBeVisible();
  await expect(page.getByTestId('answer')).toHaveCount(0);
  await field(page, 'Conductivity').fill('53,065 mS/cm');
  await expect(page.locator('#field-k-trouble')).toContainText('53.065 or as 53065');
  await expect(field(page, 'Conductivity')).toHaveValue('53,065 mS/cm');
  await field(page, 'Conductivity').fill('7 pH');
  await expect(page.locator('#field-k-trouble')).toContainText('pH is a pH; this takes µS/cm, mS/cm');
  await page.getByRole('button', { name: 'Start over' }).click();
  await expect(field(page, 'Conductivity')).toHaveValue('51.200');

  // A figure typed into the finder is answered in the list already.
  await page.getByLabel('A figure with its unit, or a word').fill('81.3 F');
  await expect(page.getByRole('link', { name: /^Celsius and Fahrenheit/ })).toContainText('27.39 °C');
  await page.getByLabel('A figure with its unit, or a word').fill('spaghetti');
  await expect(page.getByText('No sum is called that')).toBeVisible();
});

test('a result is handed to the run that waits for a reading', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens('/set-up/add');
  await page.getByRole('combobox', { name: 'Site' }).fill('Tidewater House');
  await page.getByRole('textbox', { name: 'Loop' }).fill('Reckoned pH');
  await page.getByLabel('Works at, pH').fill('8.0');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await page.getByRole('link', { name: 'To the bench' }).click();

  // A bottle whose label prints a table of its own; a slip in it is refused by its line, and stays to be mended.
  await operator.changes();
  await page.getByText('7.00, then 9.00 (20 °C)', { exact: true }).last().click();
  await page.getByRole('button', { name: 'New bottle' }).nth(1).click();
  await page.getByLabel('Lot number').fill('T-77');
  await page.getByLabel('Good until').fill('2029-05-31');
  await page.getByRole('button', { name: 'Its own table' }).click();
  const table = page.getByLabel('As the label prints it');
  await table.fill('20 °C  9.03\n25 °C  nine');
  await page.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(page.getByRole('alert')).toContainText('Line 2, “25 °C nine”, is no temperature and value');
  await table.fill('20 °C  9.03\n25 °C  7.03');
  await page.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(page.getByRole('alert')).toContainText('7.03 at 25 °C is far from what 9.00 (20 °C) has there');
  await table.fill('20 °C  9.03\n25 °C  8.99');
  await page.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(page.getByRole('combobox', { name: 'Lot of 9.00 (20 °C)' })).toContainText('T-77');
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is out and rinsed/);
  await operator.confirms(/It is in the cup/);
  await expect(page.getByRole('button', { name: 'Capture typed value' })).toBeVisible();

  // pH 7.00 at 25 °C with −12 mV of zero: the controller shows millivolts, the operator knows the pH.
  await page.keyboard.press('g');
  await page.getByRole('link', { name: 'Reckoner' }).click();
  await page.getByRole('link', { name: 'Millivolts and pH of an electrode' }).click();
  await field(page, 'Zero, in pH 7').fill('-12');
  await field(page, 'pH').first().fill('7');
  await page.getByRole('button', { name: 'Hand −12.0 mV to Reckoned pH' }).click();
  await expect(page.getByLabel('Reading', { exact: true })).toHaveValue('-12.0');
  await expect(page.getByLabel('Reading, unit')).toHaveValue('mV');
  await page.getByLabel('Temperature', { exact: true }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(operator.step).toContainText('into fresh 9.00');
  const found = page
    .getByRole('region', { name: 'What this run says so far' })
    .getByRole('row')
    .filter({ hasText: '−12.0' });
  // −12.0 mV is pH 7.20 for a channel of 0 mV and 100 %: 0.20 off.
  await expect(found).toContainText('+0.20');

  // The second cup: outside the bottle's own table it has no value; inside it, it has the label's.
  await operator.confirms(/It is in the cup/);
  await page.getByLabel('Reading', { exact: true }).fill('9.10');
  await page.getByLabel('Temperature', { exact: true }).fill('19');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(page.getByRole('alert')).toContainText('19 °C is outside the table of 9.00 (20 °C) (20 to 25 °C)');
  await page.getByLabel('Temperature', { exact: true }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(
    page.getByRole('region', { name: 'What this run says so far' }).getByRole('row').filter({ hasText: '9.10' }),
  ).toContainText('8.99');
});

test('a budget is checked by drawing, in a worker, and both agree', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens('/set-up/add');
  await page.getByRole('combobox', { name: 'Site' }).fill('Tidewater House');
  await page.getByRole('textbox', { name: 'Loop' }).fill('Budgeted pH');
  await page.getByLabel('Works at, pH').fill('6.0');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await page.getByRole('link', { name: 'To the bench' }).click();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is out and rinsed/);
  for (const [reading, next] of [
    ['7.05', /into fresh 4\.01/],
    ['4.12', /Verdict/],
  ] as const) {
    await operator.confirms(/It is in the cup/);
    await page.getByLabel('Reading', { exact: true }).fill(reading);
    await page.getByLabel('Temperature', { exact: true }).fill('25');
    await page.getByRole('button', { name: 'Capture typed value' }).click();
    await expect(operator.step).toContainText(next);
  }
  await page.getByText('Why: the figures behind it').click();
  const budget = page.getByRole('table').filter({ hasText: 'liquid junction' });
  const cells = await budget
    .getByRole('row')
    .filter({ hasNotText: /together|source/ })
    .locator('td:last-child')
    .allInnerTexts();
  const expanded = toNumber(await page.getByTestId('expanded').innerText());
  // The rows add in squares, twice that is the ±; each row is rounded to the fourth decimal.
  expect(Math.abs(2 * Math.hypot(...cells.map(Number)) - expanded)).toBeLessThan(0.0005);
  expect(cells.length).toBeGreaterThan(6);
  await page.getByRole('button', { name: /Check it by drawing/ }).click();
  const drawn = page.getByTestId('drawn');
  await expect(drawn).toContainText('100000 draws (seed 1)', { timeout: 60_000 });
  const apart = /: ([\d.]+) % apart/.exec(await drawn.innerText())![1];
  expect(Number(apart)).toBeLessThan(2);
  await expect(drawn.getByRole('img', { name: /95 % between/ })).toBeVisible();
});

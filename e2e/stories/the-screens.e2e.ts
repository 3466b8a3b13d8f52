import { nothingForAxe } from '../support/axe.ts';
import { Operator } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

/** Both themes and both sizes: contrast goes with the theme, layout with the size. */
const LOOKS = [
  { theme: 'daylight', width: 1280, height: 800 },
  { theme: 'night', width: 390, height: 844 },
] as const;

test('every view, in daylight at 1280 and at night at 390: nothing for axe, nothing sticks out', async ({ page }) => {
  const operator = new Operator(page);
  const sensor = await operator.sensorOf('Display pH, main');
  for (const path of [
    '/',
    '/bench',
    '/reckoner',
    '/reckoner/salinity',
    '/reckoner/electrode',
    '/set-up',
    '/set-up/add',
    '/set-up/people',
    '/set-up/procedures',
    '/set-up/logbook',
    '/set-up/inventory',
    '/set-up/log-ins',
    '/set-up/display',
    '/alarms/ways',
    `/sensors/${sensor}/life`,
    `/sensors/${sensor}`,
    `/bench/start/${sensor}`,
  ]) {
    await operator.opens(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByText('Reading the')).toHaveCount(0);
    for (const { theme, ...size } of LOOKS) {
      const worn = page.locator(`html[data-theme=${theme}]`);
      await page.setViewportSize(LOOKS[0]);
      if (!(await worn.count())) await page.getByRole('button', { name: /^(Daylight|Night)$/ }).click();
      await expect(worn).toHaveCount(1);
      await page.setViewportSize(size);
      await nothingForAxe(page, `${path} in ${theme}`);
    }
  }
});

test('keys: rows, search, list of keys, and nothing while one types', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  // Made from the keys that work here: those of this page first.
  await expect(page.getByRole('dialog', { name: 'Keys' }).getByRole('row').first()).toHaveText(/^j\s*Next row$/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  // Fast hands: the search is asked for before the first dialog has said that it is closed.
  await page.evaluate(() => {
    document.querySelector<HTMLDialogElement>('dialog[open]')?.close();
    window.dispatchEvent(new KeyboardEvent('keydown', { key: '/', bubbles: true, cancelable: true }));
  });
  await page.getByLabel('Name, place or serial').fill('remineralised line pH');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Remineralised line pH' })).toBeVisible();
  await page.keyboard.press('g');
  await page.keyboard.press('s');
  await expect(page.getByRole('heading', { name: 'Set-up' })).toBeVisible();
  await page.getByRole('link', { name: 'Add a loop' }).click();
  await page.getByRole('combobox', { name: 'Site' }).fill('g m');
  await expect(page.getByRole('combobox', { name: 'Site' })).toHaveValue('g m');
});

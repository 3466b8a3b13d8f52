import { nothingForAxe } from '../support/axe.ts';
import { Operator } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

test('doses are noted, taken in from a list, taken back, and counted where the reading behind them was wrong', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opensSensor('Line 1 pH');
  const doses = page.getByRole('region', { name: 'Doses' });
  const rows = doses.locator('tbody tr');
  await expect(doses).toContainText('The last 8 of 365.');

  // What and unit are those of the last dose; a comma is a decimal sign.
  await doses.getByLabel('How much').fill('17,5');
  await doses.getByRole('button', { name: 'Note it' }).click();
  await expect(rows.first()).toContainText('17.5 mL');
  await expect(doses.getByLabel('How much')).toHaveValue('');
  await expect(doses).toContainText('of 366.');

  // One bad row, and nothing of a list is taken.
  const list = (text: string) =>
    doses
      .getByLabel('Take in a list')
      .setInputFiles({ name: 'pump.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const now = Date.now();
  const at = (minutesAgo: number) => new Date(now - minutesAgo * 60_000).toISOString();
  await list(`time,what,amount,unit\n${at(50)},acid,9,mL\n${at(40)},acid,nine,mL\n`);
  await expect(doses.getByRole('alert')).toContainText('line 3: “nine” is no amount above 0.');
  await list(`time,what,amount,unit\n${at(50)},acid,9,mL\n${at(40)},acid,11,mL\n`);
  await expect(doses).toContainText('2 taken in from pump.csv.');
  await expect(doses).toContainText('of 368.');
  await nothingForAxe(page, 'doses');

  // Both come back out at once.
  await rows.filter({ hasText: '11 mL' }).getByRole('button', { name: 'Take it back' }).click();
  await expect(doses).toContainText('of 366.');
  await rows.filter({ hasText: '17.5 mL' }).getByRole('button', { name: 'Take it back' }).click();
  await expect(doses).toContainText('of 365.');

  // The reference of the multi-probe has been off for months: the salts of that time are on the list of what leaned on it.
  await operator.opensSensor('Multi-probe potassium');
  const leaned = page.getByRole('region', { name: 'Look-back' }).getByRole('listitem');
  await expect(leaned.filter({ hasText: /doses of potassium nitrate, \d+ g in all/ }).first()).toBeVisible();
});

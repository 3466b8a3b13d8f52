import { Operator } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

test('by keys alone: a hold that is still on stays the loudest thing until somebody releases it', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens();
  const row = page.getByRole('row').filter({ hasText: 'Rinse line pH' });
  await expect(row).toContainText('overdue');
  await operator.enters('link', { name: 'Bench for Rinse line pH' });
  await operator.enters('button', { name: 'Start the run' });
  await expect(operator.step).toContainText('Put hypochlorite dosing on hold');
  await page.keyboard.press('n');
  await expect(operator.step).toContainText('Probe out');
  const hold = page.getByLabel('Tray').getByRole('link', { name: /Hypochlorite dosing on hold/ });
  await expect(hold).toBeVisible();

  // Paused with Esc: the hold is seen from every other screen, and its chip leads back.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Rinse line pH is on the bench');
  await expect(hold).toBeVisible();
  await hold.press('Enter');
  await expect(operator.step).toContainText('Probe out');

  // A dialog has its own Esc, and letters typed into it are text.
  await operator.enters('button', { name: 'Abandon' });
  await page.getByLabel('Abandon this run?').getByRole('textbox').fill('nobody knows');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Abandon this run?' })).toBeHidden();
  await expect(operator.step).toContainText('Probe out');

  await operator.enters('button', { name: 'Abandon' });
  await page.getByLabel('Abandon this run?').getByRole('textbox').fill('Pump alarm');
  await operator.enters('button', { name: 'Abandon the run' });
  await expect(page.getByRole('alert')).toContainText('hypochlorite dosing is still on hold');
  await expect(hold).toBeVisible();
  await operator.enters('button', { name: 'The hold is released' });
  await expect(hold).toHaveCount(0);
  await expect(page.getByRole('alert')).toHaveCount(0);
});

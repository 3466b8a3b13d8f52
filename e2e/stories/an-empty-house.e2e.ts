import { startApplication } from '../support/application.ts';
import { expect, test } from '../support/story.ts';

test('without demo it is empty and welcoming, and one’s own sensor is one form away', async ({ page }) => {
  const application = await startApplication({ demo: false });
  try {
    await page.goto(application.url);
    await expect(page.getByRole('heading', { level: 1 })).toContainText('Welcome');
    await page.getByRole('link', { name: 'Add a sensor' }).click();
    await page.getByRole('combobox', { name: 'Site' }).fill('My tank room');
    await page.getByRole('textbox', { name: 'Loop' }).fill('Tank 1 pH');
    await page.getByLabel('Works at, pH').fill('8.1');
    await page.getByRole('button', { name: 'Add the sensor' }).click();
    await expect(page.getByText('No run yet. A first calibration opens its cone.')).toBeVisible();
    await expect(page.getByText('not known').first()).toBeVisible();
  } finally {
    await application.stop();
  }
});

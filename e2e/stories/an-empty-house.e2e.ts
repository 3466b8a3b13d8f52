import { startApplication, type Application } from '../support/application.ts';
import { nothingForAxe } from '../support/axe.ts';
import { expect, test } from '../support/story.ts';

// One house of its own for both: it begins empty, and is restored into an earlier state.
test.describe.configure({ mode: 'serial' });
let application: Application;
test.beforeAll(async () => {
  application = await startApplication({ demo: false });
});
test.afterAll(() => application.stop());

test('without demo it is empty and welcoming, and one’s own sensor is one form away', async ({ page }) => {
  await page.goto(application.url);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Welcome');
  await page.getByRole('link', { name: 'Add a sensor' }).click();
  await page.getByRole('combobox', { name: 'Site' }).fill('My tank room');
  await page.getByRole('textbox', { name: 'Loop' }).fill('Tank 1 pH');
  await page.getByLabel('Works at, pH').fill('8.1');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByText('No run yet. A first calibration opens its cone.')).toBeVisible();
  await expect(page.getByText('not known').first()).toBeVisible();
});

test('what is set up is changed with a reason and a name, taken back, put away and brought back, by keys', async ({
  page,
}) => {
  await page.goto(`${application.url}/set-up/people`);
  await page.getByLabel('Name', { exact: true }).fill('Zoë of the night shift');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'That is me: Zoë of the night shift' }).click();
  await expect(page.getByLabel('Who works here')).toHaveValue('Zoë of the night shift');

  await page.goto(`${application.url}/set-up`);
  const opener = page.getByRole('button', { name: 'Change Tank 1 pH' });
  await opener.focus();
  await page.keyboard.press('Enter');
  const form = page.getByRole('form', { name: 'Change Tank 1 pH' });
  // A slip is refused at its field, and nothing is lost.
  await form.getByLabel('Tolerance, ± pH').fill('0');
  await page.keyboard.press('Enter');
  await expect(form.getByText('A tolerance is above 0.')).toBeVisible();
  await form.getByLabel('Tolerance, ± pH').fill('0,05');
  await expect(form.getByRole('status', { name: 'What it would mean' })).toContainText(
    'Its margin stays as it is: not known',
  );
  await form.getByLabel('Why').fill('the new fish want less');
  await nothingForAxe(page, 'a loop that is changed, daylight');
  await page.getByRole('button', { name: 'Night' }).click();
  await nothingForAxe(page, 'a loop that is changed, night');
  await page.getByRole('button', { name: 'Daylight' }).click();
  await form.getByLabel('Why').focus();
  await page.keyboard.press('Enter');
  await expect(form.getByText('Kept. Past verdicts keep the figures')).toBeVisible();
  const row = page.locator('[data-loop="Tank 1 pH"]');
  await expect(row).toContainText('8.100 pH ±0.050');
  await form.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toContainText('8.10 pH ±0.10');
  await form.getByText('Changed 2 times').click();
  await expect(form.getByRole('listitem').nth(1)).toContainText('tolerance: 0.100 pH → 0.050 pH');
  await expect(form.getByRole('listitem').nth(1)).toContainText('Zoë of the night shift: the new fish want less');

  await form.getByRole('button', { name: 'Archive' }).click();
  await page.getByText('Archived loops: 1').click();
  await nothingForAxe(page, 'an archived loop');
  await page.getByRole('button', { name: 'Bring back Tank 1 pH' }).click();
  await expect(row).toBeVisible();
});

test('a house goes into a file and comes back beside the present one, which can be brought back', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${application.url}/set-up`);
  await page.getByRole('link', { name: 'Snapshots and backups' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('There is no snapshot yet.');
  await nothingForAxe(page, 'no snapshot');
  await page.getByRole('button', { name: 'Make a snapshot now' }).click();
  await expect(page.getByText('1 loop, 0 runs, 0 minutes of readings')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Download the snapshot of/ }).click(),
  ]);
  const file = await download.path();

  // By another device, meanwhile.
  const second = { siteName: 'My tank room', loopName: 'Tank 2 pH', family: 'ph', workingValue: 8.1, workingC: 25, tolerance: 0.2, intervalDays: 30, pointSet: ['technical-7.00', 'technical-10.01'], sensorName: 'B', fittedOn: '2026-01-01', channel: { kind: 'hand' } }; // prettier-ignore
  expect((await page.request.post(`${application.url}/api/sensors`, { data: second })).status()).toBe(201);
  await page.locator('input[type=file]').setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('x') }); // prettier-ignore
  await expect(page.getByRole('alert')).toContainText('This file is no backup of Frustum');
  await page.locator('input[type=file]').setInputFiles(file);
  const house = page.getByRole('region', { name: 'A house to restore' });
  await expect(house.getByRole('heading')).toContainText('is ready. Nothing has changed yet.');
  await expect(house.getByRole('row', { name: /^Loops/ })).toHaveText('Loops21−1');
  await nothingForAxe(page, 'ready, daylight');
  await page.getByRole('button', { name: 'Night' }).click();
  await nothingForAxe(page, 'ready, night');
  await expect(house.getByRole('button', { name: 'Put it in the place of this house' })).toBeDisabled();
  await house.getByRole('checkbox').focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  const aside = page.getByRole('region', { name: 'Set aside' });
  await expect(aside.getByText(/^Restored from the backup of/)).toBeVisible();
  await nothingForAxe(page, 'restored');
  await page.goto(application.url);
  await expect(page.getByText('Tank 1 pH').first()).toBeVisible();
  await expect(page.getByText('Tank 2 pH')).toHaveCount(0);

  await page.goBack();
  await aside.getByRole('button', { name: /^Bring it back/ }).click();
  await expect(aside.getByText(/was brought back/)).toBeVisible();
  await page.goto(application.url);
  await expect(page.getByText('Tank 2 pH').first()).toBeVisible();
});

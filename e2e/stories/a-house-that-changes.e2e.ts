import type { MarginsView } from '@frustum/contract';
import { startApplication, type Application } from '../support/application.ts';
import { nothingForAxe } from '../support/axe.ts';
import { OperatorTime } from '../support/operator-time.ts';
import { Operator } from '../support/operator.ts';
import { expect, test, type Page } from '../support/story.ts';

let application: Application;
test.beforeAll(async () => {
  application = await startApplication({ demo: false });
});
test.afterAll(() => application.stop());

async function typesReading(page: Page, reading: string): Promise<void> {
  await page.getByLabel('Reading', { exact: true }).fill(reading);
  await page.getByLabel('Temperature', { exact: true }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
}

const LOOPS = [
  ['Tank 1 pH', 'pH', '8.1'],
  ['Tank 1 ORP', 'ORP', '320'],
  ['Tank 1 salinity', 'salinity', '35'],
] as const;

test('three loops from nothing in under three minutes; one is run, its probe moved, another replaced, and the old verdict stands', async ({
  page,
}) => {
  const operator = new Operator(page, application.url);
  const clock = new OperatorTime();
  await operator.opens();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Welcome');
  await clock.presses(page.getByRole('link', { name: 'Add a sensor' }));
  for (const [i, [name, family, value]] of LOOPS.entries()) {
    if (i === 0) await clock.types(page.getByRole('combobox', { name: 'Site' }), 'Tank room');
    else {
      await clock.presses(page.getByRole('link', { name: 'Set-up', exact: true }));
      await clock.presses(page.getByRole('link', { name: 'Add a loop' }));
      // The site is the one that there is.
      await clock.picks(page.getByLabel('It measures'), family);
    }
    await clock.types(page.getByRole('textbox', { name: 'Loop', exact: true }), name);
    await clock.types(page.getByLabel(/^Works at/), value);
    await clock.presses(page.getByRole('button', { name: 'Add the sensor' }));
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
  }
  console.log(`three loops of three families set up in ${String(clock)}`);
  expect(clock.seconds).toBeLessThan(180);

  // One of them is run by hand, and left as it is.
  await operator.opensBench('Tank 1 pH');
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is out and rinsed/);
  await operator.confirms(/It is in the cup/);
  await typesReading(page, '7.03');
  await operator.confirms(/It is in the cup/);
  await typesReading(page, '10.05');
  await operator.leaves();
  await operator.confirms(/Back in the water/);
  const verdict = page.getByRole('region', { name: 'Now' }).getByRole('heading', { level: 2 });
  await expect(page.getByTestId('next-due')).toContainText('in 30 days');
  const said = await verdict.innerText();
  expect(said).not.toBe('');
  const run = page.url();

  // Another like it, and the probe that was run goes there; the one that was there goes to the shelf.
  await operator.opens('/set-up');
  await page.getByRole('button', { name: 'Change Tank 1 pH' }).click();
  await page.getByRole('link', { name: 'Another like this' }).click();
  // The editor, which stays until the page has come, has a field of the same name.
  await expect(page.getByRole('heading', { name: 'Another like Tank 1 pH' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Loop', exact: true }).fill('Tank 2 pH');
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByRole('heading', { name: 'Tank 2 pH', level: 1 })).toBeVisible();
  await operator.opensSensor('Tank 1 pH');
  await page.getByRole('link', { name: 'Its life' }).click();
  const move = page.getByRole('region', { name: 'Move it' });
  await move.getByLabel('It goes').selectOption({ label: 'to Tank 2 pH' });
  await move.getByLabel('Tank 2 pH probe goes').selectOption({ label: 'onto the shelf, stored wet' });
  await move.getByLabel('Why').fill('tank 1 stands empty');
  await nothingForAxe(page, 'a life, daylight');
  await page.getByRole('button', { name: 'Night' }).click();
  await nothingForAxe(page, 'a life, night');
  await page.getByRole('button', { name: 'Daylight' }).click();
  await page.keyboard.press('Tab');
  await move.getByLabel('Why').focus();
  await page.keyboard.press('Enter');
  const life = page.getByRole('region', { name: 'What it has been through' });
  await expect(life.getByRole('listitem').first()).toContainText('fitted at Tank 2 pH');
  await expect(life.getByRole('listitem').first()).toContainText('tank 1 stands empty');
  await expect(life.getByRole('link', { name: 'run at Tank 1 pH' })).toBeVisible();
  const { rows } = (await (await page.request.get(`${application.url}/api/margins`)).json()) as MarginsView;
  expect(rows.find((r) => r.loopName === 'Tank 2 pH')!.due.reason).toBe('fitted here, and not calibrated since');

  // Where nothing is fitted, Margins say so; the spare from the shelf fills the place, by thumb.
  await page.setViewportSize({ width: 390, height: 844 });
  await operator.opens();
  await page.getByRole('region', { name: 'Nothing is fitted' }).getByRole('link', { name: 'Tank 1 pH' }).click();
  await expect(page.getByRole('radio', { name: /Tank 2 pH probe/ })).toBeChecked();
  await nothingForAxe(page, 'a sensor is fitted');
  await page.getByRole('button', { name: 'It is fitted' }).click();
  await expect(page.getByRole('heading', { name: 'Tank 1 pH', level: 1 })).toBeVisible();

  // The probe of another loop is replaced by a new one, which goes on the page of its life.
  await operator.opens('/set-up');
  await page.getByRole('button', { name: 'Change Tank 1 ORP' }).click();
  await page.getByRole('link', { name: 'Replace its sensor' }).click();
  const fit = page.getByRole('form', { name: 'Fit a sensor' });
  await fit.getByLabel('Sensor', { exact: true }).fill('Platinum 2');
  await fit.getByLabel('Why').fill('scratched');
  await page.getByRole('button', { name: 'It is fitted' }).click();
  await expect(page.getByRole('heading', { name: 'Tank 1 ORP', level: 1 })).toBeVisible();
  await expect(page.getByRole('main').getByText('Platinum 2').first()).toBeVisible();
  await page.setViewportSize({ width: 1280, height: 800 });

  // A new name and another tolerance: the verdict of then keeps its figures.
  await operator.opens('/set-up');
  await page.getByRole('button', { name: 'Change Tank 1 pH' }).click();
  const form = page.getByRole('form', { name: 'Change Tank 1 pH' });
  await form.getByLabel('Loop').fill('Seahorses pH');
  await form.getByLabel('Tolerance, ± pH').fill('0.02');
  await form.getByRole('button', { name: 'Keep the change' }).click();
  await expect(page.locator('[data-loop="Seahorses pH"]')).toContainText('±0.02');
  await page.goto(run);
  await expect(verdict).toHaveText(said);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tank 1 pH');

  // Before Frustum there was a logbook: its sheet is filled in for the salinity, which has been there for two years.
  await operator.opens('/set-up');
  await page.getByRole('button', { name: 'Change Tank 1 salinity' }).click();
  await page.getByLabel('Fitted on').fill('2024-01-10');
  await page.getByRole('button', { name: 'Keep the change' }).click();
  await expect(page.locator('[data-loop="Tank 1 salinity"]')).toContainText('fitted 10 Jan 2024');
  await page.getByRole('link', { name: 'Past runs from paper' }).click();
  const sheet = await (await page.request.get(`${application.url}/api/logbook.csv`)).text();
  const [heading = '', ...lines] = sheet.trim().split('\r\n');
  const blank = lines.filter((line) => line.startsWith(',Tank 1 salinity,'));
  const standard = blank.map((line) => line.split(',')[2]!).find((name) => name.includes('35'))!;
  const book = (when: string, found: string) => `${heading}\r\n${when},Tank 1 salinity,${standard},,${found},35,25,Zoë`;
  const file = page.getByLabel('The logbook, as CSV');
  const drop = (text: string) => file.setInputFiles({ name: 'book.csv', mimeType: 'text/csv', buffer: Buffer.from(text) }); // prettier-ignore
  await drop(book('31.2.2025', 'high'));
  await expect(page.getByRole('alert')).toContainText('line 2, column 1: “31.2.2025” is no day.');
  await expect(page.getByRole('alert')).toContainText('line 2, column 5: “high” is not a figure.');
  await nothingForAxe(page, 'a logbook with mistakes');
  await drop(book('28.2.2025', '35.6'));
  await expect(page.getByRole('heading', { name: '1 run of 1 sensor' })).toBeVisible();
  await nothingForAxe(page, 'a logbook that is rehearsed');
  await page.getByRole('button', { name: 'Take in this run' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: '1 run taken in from book.csv.' })).toBeVisible();
  await operator.opensSensor('Tank 1 salinity');
  await expect(page.getByRole('region', { name: 'Runs' })).toContainText('from paper, adjusted');

  // The next room comes from a spreadsheet, and one figure goes for all of a kind.
  await operator.opens('/set-up/inventory');
  const room = 'loop;measures;works at;backup of\nTank 3 pH;pH;8,2;Tank 2 pH\nTank 1 ORP;;340;';
  await page
    .getByLabel('The inventory, as CSV or JSON')
    .setInputFiles({ name: 'room.csv', mimeType: 'text/csv', buffer: Buffer.from(room) });
  await expect(page.getByRole('heading', { name: '1 added, 1 changed, 0 as they were' })).toBeVisible();
  await nothingForAxe(page, 'an inventory that is rehearsed');
  await page.getByRole('button', { name: 'Take in these 2 rows' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'Taken in from room.csv' })).toBeVisible();
  await operator.opens('/set-up');
  await expect(page.locator('[data-loop="Tank 3 pH"]')).toContainText('backup of Tank 2 pH');
  await expect(page.locator('[data-loop="Tank 1 ORP"]')).toContainText('at 340 mV');
  await page.getByRole('button', { name: 'Change Tank 3 pH' }).click();
  const third = page.getByRole('form', { name: 'Change Tank 3 pH' });
  await third.getByLabel('Tolerance, ± pH').fill('0.05');
  await third.getByLabel('The same for the 2 others of pH here').check();
  await expect(third.getByRole('status', { name: 'What it would mean' })).toContainText('Of the 3 loops');
  await third.getByRole('button', { name: 'Keep the change' }).click();
  for (const loop of ['Seahorses pH', 'Tank 2 pH', 'Tank 3 pH'])
    await expect(page.locator(`[data-loop="${loop}"]`)).toContainText('±0.05');
  await third.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-loop="Seahorses pH"]')).toContainText('±0.02');
  await expect(page.locator('[data-loop="Tank 2 pH"]')).toContainText('±0.10');
});

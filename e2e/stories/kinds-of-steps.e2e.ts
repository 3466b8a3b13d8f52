import { nothingForAxe } from '../support/axe.ts';
import { instruments } from '../support/instruments.ts';
import { Operator, toNumber } from '../support/operator.ts';
import { truthOfBody } from '../support/truth.ts';
import { expect, test, type Page } from '../support/story.ts';

/**
 * One run for each kind of step that the sheet knows beside settling and typing: as it is, a sample, two thermometers, boxes.
 * What each family finds is proven without a browser, in server/every-procedure.spec.ts.
 */
const due = (page: Page, days: number) => expect(page.getByTestId('next-due')).toContainText(`in ${days} days`);
const verdict = (page: Page) => page.getByTestId('verdict');
const closes = async (page: Page, name: RegExp) => page.getByRole('button', { name }).click();

test('resistivity in high-purity water: its own cautions, verified only', async ({ page }) => {
  const operator = new Operator(page);
  await operator.startsBy('Make-up resistivity', 'Verify only', 60);
  await expect(operator.step).toContainText('Flow, earth, no air');
  await expect(operator.step).toContainText('not calibrated away');
  await operator.confirms(/^Done/);
  await expect(operator.step).toContainText('Isolate, depressurise, drain');
  await operator.confirms(/^Done/);
  await operator.confirms(/It is out and rinsed/);
  await operator.rinsesInto('Cup 84 µS/cm');
  await operator.confirms(/It is in the cup/);
  // The cup stands in a warm room: it is captured as it is, and that stays in the record.
  await operator.capturesAsItIs();
  await expect(verdict(page)).toContainText('MΩ·cm');
  expect(Math.abs((await operator.figure('Gain')) - 100 * truthOfBody('make-up').cell!.gain)).toBeLessThan(1.5);
  await page.getByText('Decide otherwise').click();
  await expect(page.getByRole('button', { name: 'Adjust it' })).toHaveCount(0);
  await operator.confirms(/^Leave it$/);
  await operator.moves('Water');
  await operator.returns(/Back in the water/);
  await due(page, 90);
});

test('chlorine: a photometer’s value held against the reading of its moment', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opensBench('Rinse line chlorine');
  // It senses the acid only: its pH comes from the loop beside it, which nobody has looked after for weeks.
  const ph = page.getByRole('textbox', { name: 'pH of the water' });
  await expect(page.getByText('Shown by Rinse line pH.')).toBeVisible();
  expect(Math.abs(Number(await ph.getAttribute('placeholder')) - 7.2)).toBeLessThan(0.2);
  await expect(page.getByText('This run takes the pH of the water from it')).toBeVisible();
  await ph.fill('72 °F');
  await expect(page.getByText('°F is a temperature; this takes pH.')).toBeVisible();
  await nothingForAxe(page, 'conditions');
  await ph.fill('7.2');
  await page.getByRole('button', { name: 'Start the run' }).click();
  await expect(operator.step).toContainText('Draw the sample, keep the reading');
  await operator.captures();
  const { photometer } = await instruments([{ action: 'blank' }, { action: 'sample', probe: 'rinse-chlorine' }]);
  await page.getByLabel('Found', { exact: true }).fill(String(photometer.chlorine_mg_l));
  await page.getByLabel('Its ±, k = 2').fill('0.03');
  await page.getByLabel('Measured at', { exact: true }).fill('66');
  await page.getByRole('button', { name: /Hold it against/ }).click();
  await expect(page.getByRole('alert')).toContainText('measured at 66 °C, the water has 19 °C');
  await nothingForAxe(page, 'entry');
  await page.getByLabel('Measured at, unit').selectOption('°F');
  await page.getByRole('button', { name: /Hold it against/ }).click();
  await expect(verdict(page)).toContainText('mg/L off at 0.5');
  await expect(page.getByText('pH of the water 7.2 pH, typed for this run.')).toBeVisible();
  // 92 nA at pH 7 and 25 °C, 3 %/°C; the acid's pKa is 7.54 at any temperature there, and 7.59 at 19 °C for the run.
  const acid = (at: number, pKa: number) => 1 / (1 + 10 ** (at - pKa));
  const there = acid(7.2, 7.54) / acid(7, 7.54);
  const slope = (92 * 1.03 ** -6 * there * acid(7, 7.537)) / acid(7.2, 7.592) + 3;
  expect(Math.abs((await operator.figure('Slope')) - slope)).toBeLessThan(6);
  await page.getByText('Decide otherwise').click();
  await page.getByLabel('Why, in a few words').fill('close enough');
  await page
    .getByRole('button', { name: /^Leave it$/ })
    .last()
    .click();
  await closes(page, /Finish the run/);
  await due(page, 14);
});

test('temperature: two thermometers that disagree, then agree; entered in whole steps of °F', async ({ page }) => {
  const operator = new Operator(page);
  await operator.startsBy('Display temperature', 'Two thermometers');
  await operator.confirms(/They stand beside it/);
  // One is the bench's own, dipped in and followed; the other is typed from the wall.
  await instruments([{ action: 'dip', probe: 'display-temperature' }]);
  // It follows; five degrees in a quarter of a minute are close enough to be read.
  await expect.poll(async () => (await instruments()).thermometer.celsius, { timeout: 60_000 }).toBeGreaterThan(24.4);
  const { celsius } = (await instruments()).thermometer;
  await page.getByLabel('First thermometer', { exact: true }).fill(String(celsius));
  await page.getByLabel('Its accuracy, ±').first().fill('0.2');
  await page.getByLabel('Second thermometer', { exact: true }).fill(String(celsius + 1.5));
  await page.locator('#entry-second-accuracy').fill('0.2');
  await page.getByRole('button', { name: 'Both are read' }).click();
  await expect(page.getByRole('alert')).toContainText('Find out which is wrong before anything is adjusted');
  await page.getByLabel('Second thermometer', { exact: true }).fill((celsius + 0.1).toFixed(1));
  await page.getByRole('button', { name: 'Both are read' }).click();
  await operator.captures();
  await expect(verdict(page)).toContainText('°C off at 25.5');
  await page.getByText('Decide otherwise').click();
  await page.getByLabel('Why, in a few words').fill('whole steps of °F here');
  await page
    .getByRole('button', { name: /^Adjust it$/ })
    .last()
    .click();
  await page.getByLabel('The display takes steps of').fill('1');
  await page.getByRole('main').locator('select').first().selectOption('°F');
  const offset = toNumber(await page.getByTestId('offset').innerText());
  expect(Number.isInteger(offset)).toBe(true);
  await expect(page.getByText('remains, and stays in the record')).toBeVisible();
  await nothingForAxe(page, 'offset');
  await operator.confirms(/I entered it/);
  await page.getByRole('button', { name: 'Pass over this step' }).click();
  await page.getByLabel('Why it is passed over').fill('shown on the display');
  await page.getByRole('button', { name: 'Pass over it' }).click();
  await closes(page, /Finish the run/);
  await due(page, 60);
});

test('boxes on a transmitter: as found in % of span, one only looked at; terminals back', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opensBench('Display pH, main');
  await operator.changes();
  await page.getByText('Electrical check', { exact: true }).click();
  await expect(page.getByRole('region', { name: 'Boxes' })).toContainText('Which boxes');
  await nothingForAxe(page, 'boxes');
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is on hold/);
  await expect(operator.step).toContainText('Wet hands and mains do not mix');
  await operator.confirms(/The sensor is off/);
  // A look at the screen before it is said that the box is on: what came before belongs to no box.
  const shows = page
    .getByText(/^The channel shows/)
    .locator('.fig')
    .first();
  const plugsAndCaptures = async (box: number) => {
    await operator.plugs(box);
    // It is about 3 mV off at the highest box, with noise; the boxes are 147 apart.
    await expect.poll(async () => Math.abs(toNumber(await shows.innerText()) - box)).toBeLessThan(10);
    await operator.confirmsAndCaptures(/The box is on/);
  };
  for (const box of [-150, 0, 147]) await plugsAndCaptures(box);
  await expect(verdict(page)).toContainText(/Adjust it: −\d\.\d\d % of span, limit 0\.5 %/);
  // The last box gave 147 mV for 150: 3 mV of the span of 300, with the input's noise.
  expect(Math.abs(toNumber(await verdict(page).innerText()) + 1)).toBeLessThan(0.05);
  await expect(page.getByText('only looked at').first()).toBeVisible();
  await operator.confirms(/^Adjust it/);
  await operator.confirms(/It is trimmed/);
  for (const box of [-150, 0, 150]) await plugsAndCaptures(box);
  await operator.plugs(null);
  await closes(page, /Sensor back on its terminals/);
  await expect(page.getByText(/^Decided: adjust it/)).toBeVisible();
  await expect(page.getByRole('heading', { name: /Adjust it: −(0\.9[5-9]|1\.0)/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /150 mV/ }).last()).toContainText(/−(0\.9[5-9]|1\.0\d)/);
});

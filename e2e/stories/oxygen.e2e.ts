import { airKPa, fullKPa, oxygenAtRest } from '@frustum/sim';
import { nothingForAxe } from '../support/axe.ts';
import { instruments } from '../support/instruments.ts';
import { Operator, toNumber } from '../support/operator.ts';
import { truthOfBody } from '../support/truth.ts';
import { expect, test } from '../support/story.ts';

/** Oxygen from the gate to its due date: over a wire, with salinity from another loop; and typed, on a phone. */
test('an optical sensor on a wire: the barometer is typed, the salinity comes from the loop beside it', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opensBench('Display oxygen');
  await expect(page.getByText('Shown by Display salinity.')).toBeVisible();
  const salinity = page.getByRole('textbox', { name: 'Salinity, PSS-78' });
  expect(Math.abs(Number(await salinity.getAttribute('placeholder')) - 22)).toBeLessThan(1);
  const pressure = page.getByRole('textbox', { name: 'Pressure of the air, kPa' });
  const { barometer } = await instruments();
  await pressure.fill(`${barometer.hpa}`);
  await expect(page.getByText(/is outside 50 to 112 kPa\. As it is where you stand/)).toBeVisible();
  await expect(page.getByRole('button', { name: /First mend the conditions/ })).toBeDisabled();
  await pressure.fill(`${barometer.hpa} hPa`);
  await nothingForAxe(page, 'conditions');
  for (const because of await page.getByLabel('Begin all the same, because').all()) await because.fill('a look');
  await page.getByRole('button', { name: 'Start the run' }).click();

  await operator.confirms(/It is on hold/);
  await expect(operator.step).toContainText('Aeration goes on while the sensor is out');
  await operator.confirms(/It is out and rinsed/);
  await expect(operator.step).toContainText('Sulfite in water, mixed today');
  await operator.rinsesInto('Cup zero oxygen');
  await operator.confirmsAndSettles(/It is in the cup/);
  await expect(operator.step).toContainText('a film of it eats what should be measured');
  await operator.rinsesInto('Cup water-saturated air');
  await operator.confirmsAndCaptures(/It is in the air/);

  // What the dye does in nothing and in full air, by the stand-in's own physics; 3 in full air at 25 °C was promised.
  const { oxygen } = truthOfBody('display-oxygen');
  const kPa = fullKPa(24, airKPa(Date.now()));
  const [none, full] = [oxygenAtRest(oxygen!, 0, 24), oxygenAtRest(oxygen!, kPa, 24)];
  await expect(page.getByTestId('verdict')).toContainText(/mg\/L O2 off at 6\.7/);
  expect(Math.abs((await operator.figure('Zero')) - (none - 1))).toBeLessThan(0.006);
  const promised = (0.991 * 2 * kPa) / 20.56;
  expect(Math.abs((await operator.figure('Quenching')) - (100 * (full - none)) / promised)).toBeLessThan(1.2);
  await expect(page.getByText(/^Pressure of the air 9\d\.\d+ kPa, typed for this run\.$/)).toBeVisible();
  await expect(page.getByText(/^Salinity 2[12]\.\d+ PSS-78, shown by Display salinity\.$/)).toBeVisible();

  await page.getByText('Decide otherwise').click();
  await page.getByLabel('Why, in a few words').fill('to see it right');
  await page
    .getByRole('button', { name: /^Adjust it$/ })
    .last()
    .click();
  await operator.confirmsAndCaptures(/I entered them/);
  await operator.moves('Water');
  // In its water it shows what a titration finds.
  const { titration } = await instruments([{ action: 'sample', probe: 'display-oxygen' }]);
  const shows = page
    .getByText(/^The channel shows/)
    .locator('.fig')
    .first();
  await expect.poll(async () => Math.abs(toNumber(await shows.innerText()) - titration.oxygen_mg_l)).toBeLessThan(0.12);
  await operator.returns(/Back in the water, hold released/);
  await expect(page.getByTestId('next-due')).toContainText('in 60 days');
});

test.describe('typed, on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  test('a membrane that shows % is set up and held against moist air', async ({ page }) => {
    const operator = new Operator(page);
    await operator.opens('/set-up/add');
    await page.getByRole('combobox', { name: 'Site' }).fill('Tidewater House');
    await page.getByRole('textbox', { name: 'Loop' }).fill('Quarantine oxygen');
    await page.getByLabel('It measures').selectOption('dissolved oxygen, membrane');
    await page.getByText('Everything else, as usual').click();
    await page.getByLabel('written in').selectOption('% of saturation');
    await page.getByLabel('Works at, % sat').fill('95');
    await page.getByLabel('Tolerance, ± % sat').fill('5');
    await page.getByLabel('Pressure of the air, kPa').fill('29.2 inHg');
    await page.getByRole('button', { name: 'Add the sensor' }).click();
    await page.getByRole('link', { name: 'To the bench' }).click();
    // 29.2 inHg · 3.38639 kPa
    await expect(page.getByRole('textbox', { name: 'Pressure of the air, kPa' })).toHaveAttribute(
      'placeholder',
      '98.883',
    );
    await page.getByRole('button', { name: 'Start the run' }).click();
    await operator.confirms(/It is out and rinsed/);
    await operator.confirms(/It is in the air/);
    await page.getByLabel('Reading', { exact: true }).fill('91.3');
    await page.getByLabel('Temperature', { exact: true }).fill('22.4');
    await page.getByRole('button', { name: 'Capture typed value' }).click();
    // 91.3 % shown where there are 100: slope 91.3 %, and 95 % of it off by 95 · (0.913 − 1).
    await expect(page.getByTestId('verdict')).toContainText('Adjust it');
    expect(Math.abs((await operator.figure('Slope')) - 91.3)).toBeLessThan(0.05);
    expect(Math.abs((await operator.figure('As found, off at 95 % sat')) - -8.27)).toBeLessThan(0.06);
    await nothingForAxe(page, 'verdict');
    await operator.confirms(/^Adjust it/);
    await operator.confirms(/I entered them/);
    await page.getByLabel('Reading', { exact: true }).fill('100.0');
    await page.getByLabel('Temperature', { exact: true }).fill('22.4');
    await page.getByRole('button', { name: 'Capture typed value' }).click();
    await operator.confirms(/Back in the water/);
    await expect(page.getByTestId('next-due')).toContainText('in 30 days');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});

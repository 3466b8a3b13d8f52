import { readFileSync } from 'node:fs';
import type { MarginsView, SensorView } from '@frustum/contract';
import { nothingForAxe } from '../support/axe.ts';
import { Operator, toNumber, url } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';
import { hiddenTruth, truthOfBody } from '../support/truth.ts';

test('which half is failing: the diluted reference and the aged glass, on what evidence, and the test that would tell', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opensSensor('Multi-probe pH');
  const half = page.getByRole('region', { name: 'Which half is failing' });
  await expect(half.getByRole('heading')).toHaveText(
    'Which half? Probably the reference electrolyte is diluted: service the reference.',
  );
  // The hidden reference has lost some 16 mV in these months.
  const moved = half.getByRole('row').filter({ hasText: 'since the first run' }).first();
  expect(toNumber(await moved.innerText())).toBeLessThan(-11);
  expect(toNumber(await moved.innerText())).toBeGreaterThan(-22);
  await expect(moved).toContainText('for it');
  await expect(half).toContainText('The zero comes back: the electrolyte was diluted.');
  await nothingForAxe(page, 'which half');

  // The charts have tables behind them: found less expected, run by run, as the server reckoned it.
  await page.getByText('Control charts.').click();
  const { rows } = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const { sensorId } = rows.find((r) => r.loopName === 'Multi-probe pH')!;
  const { past } = (await (await page.request.get(`${url()}/api/sensors/${sensorId}`)).json()) as SensorView;
  const last = page.locator('details[aria-label="Control charts"] tbody tr').last().getByRole('cell').nth(1);
  expect(toNumber(await last.innerText())).toBeCloseTo(past.at(-1)!.standardised[0], 1);
  await nothingForAxe(page, 'control charts');

  await half.getByRole('link', { name: 'Start it' }).click();
  await expect(page.getByRole('button', { name: 'Start the run' })).toBeVisible();

  await operator.opensSensor('Line 1 pH');
  await expect(half.getByRole('heading')).toContainText('Probably the glass has aged: replace the sensor.');
  await expect(half.getByRole('row').filter({ hasText: 'Answers in' })).toContainText('for it');
});

test('a sensor that is outside: since when, by how much, and what leaned on it', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opensSensor('Multi-probe potassium');
  const back = page.getByRole('region', { name: 'Look-back' });
  await expect(back.getByText(/until now/)).toBeVisible();
  // The same figure as at the top of the page: it has drifted far out, and nobody has put it right.
  const top = page.getByText(/^Off now at 180/).locator('xpath=following-sibling::dd');
  const off = toNumber(await top.innerText());
  expect(off).toBeLessThan(-60);
  expect(
    Math.abs(
      toNumber(
        await back
          .getByText(/it shows/)
          .innerText()
          .then((t) => t.split('it shows')[1]!),
      ) - off,
    ),
  ).toBeLessThan(3);
  await expect(
    back.getByRole('listitem').filter({ hasText: /doses of potassium nitrate, \d+ g in all/ }),
  ).toBeVisible();
  // pH comes before the tips on their reference, never after them.
  await expect(back).not.toContainText('leans on it');
  const readings = page.getByRole('region', { name: 'Readings' });
  await expect(readings).toContainText('a provisional correction');
  await nothingForAxe(page, 'look-back');
});

test('pictures can be taken away, and a sensor is held beside its backup', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opensSensor('Display pH, main');
  const saved = async (button: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: `Save Display pH, main, error over time as ${button}` }).click(),
    ]);
    return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
  };
  const csv = await saved('CSV');
  expect(csv.name).toBe('Display-pH-main-error-over-time.csv');
  const { rows } = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const mine = rows.find((r) => r.loopName === 'Display pH, main')!;
  const view = (await (await page.request.get(`${url()}/api/sensors/${mine.sensorId}`)).json()) as SensorView;
  const lines = csv.bytes.toString('utf8').trim().split('\r\n');
  const found = lines.filter((l) => l.includes('found by'));
  expect(found).toHaveLength(view.row.cone.marks.length);
  expect(Number(found.at(-1)!.split(',')[2])).toBeCloseTo(view.row.cone.marks.at(-1)!.error, 9);
  const svg = (await saved('SVG')).bytes.toString('utf8');
  expect(svg).toMatch(/^<svg/);
  expect(svg).not.toContain('var(--');
  // A PNG of twice the size of the screen's picture.
  const png = (await saved('PNG')).bytes;
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  expect(png.readUInt32BE(16)).toBeGreaterThan(1500);

  await page.getByText('Compare.', { exact: true }).click();
  const compare = page.locator('details[aria-label="Compare"]');
  await expect(compare.getByLabel('Compare with')).toContainText('Display pH, backup (its backup)');
  await expect(compare.getByRole('img', { name: /Display pH, backup, broken/ })).toBeVisible();
  const cell = compare.getByRole('row').filter({ hasText: 'Slope in force' }).getByRole('cell');
  const backup = rows.find((r) => r.loopName === 'Display pH, backup')!;
  expect(toNumber(await cell.nth(1).innerText())).toBeCloseTo(100 * mine.inForce.sensitivity, 0);
  expect(toNumber(await cell.nth(2).innerText())).toBeCloseTo(100 * backup.inForce.sensitivity, 0);
  await nothingForAxe(page, 'compare');

  // Its buffers agree, and its junction does not let the water through: one picture, with what would settle it.
  await operator.opensSensor('Display pH, backup');
  const said = page.getByText(/^Most likely/);
  await expect(said).toContainText('the junction is blocked, > 99 %. To settle it: take a grab sample');
  const [, off] = /^Most likely (\S+) ±/.exec(await said.innerText())!;
  const { zeroMv, slope } = hiddenTruth('Display pH, backup');
  const { blockedMv } = truthOfBody('display-backup').reference;
  const k = (1000 * Math.LN10 * 8.314463 * (backup.workingC + 273.15)) / 96_485.33;
  const mv = zeroMv + blockedMv - slope * k * (backup.workingValue - 7);
  const hidden = 7 - (mv - backup.inForce.zero) / (backup.inForce.sensitivity * k) - backup.workingValue;
  expect(Math.abs(toNumber(off!) - hidden), `${off} and ${hidden}`).toBeLessThan(0.12);
});

test('what decides when the next run is due: the calendar, or the forecast with the days as its longest', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opensSensor('Rinse line ORP');
  const schedule = page.getByRole('region', { name: 'Schedule' });
  const due = page.getByText('Next run', { exact: true }).locator('xpath=following-sibling::dd');
  const change = schedule.getByRole('button', { name: 'Change the schedule' });
  await expect(due).toContainText('every 60 days');
  await expect(change).toBeDisabled();
  await schedule.getByRole('textbox', { name: 'Days' }).fill('0');
  await change.click();
  await expect(schedule.getByRole('alert')).toContainText('Interval');
  await schedule.getByRole('textbox', { name: 'Days' }).fill('365');
  await schedule.getByLabel('The next run is due').selectOption('forecast');
  await change.click();
  await expect(due).toContainText('chance of being outside reaches 5 %');
  const { rows } = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const row = rows.find((r) => r.loopName === 'Rinse line ORP')!;
  expect(row.due).toEqual(row.forecast);
  expect(row.due.atMs!).toBeLessThan(row.lastRunMs! + 365 * 86_400_000);
  await nothingForAxe(page, 'schedule');
  await schedule.getByRole('button', { name: 'Back to the calendar, 60 days' }).click();
  await expect(due).toContainText('every 60 days');
  await expect(schedule.getByRole('textbox', { name: 'Days' })).toHaveValue('60');
});

test('what was done to a sensor is noted, makes it due, begins its story anew, and is taken back', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opensSensor('Multi-probe pH');
  const half = page.getByRole('region', { name: 'Which half is failing' });
  const log = page.getByRole('region', { name: 'Service log' });
  await half.getByRole('button', { name: 'Note: refilled just now' }).click();
  await expect(log.getByRole('row').filter({ hasText: 'refilled' })).toContainText('none since');
  await expect(half.getByRole('heading').first()).toHaveText('Which half? The next run will tell.');
  await expect(half).toContainText('Refilled on');
  await expect(page.getByText('refilled, and not tested since').first()).toBeVisible();
  await log.getByRole('button', { name: 'Take it back' }).click();
  await expect(log).toContainText('Nothing yet.');
  await expect(half.getByRole('heading').first()).toContainText('Probably the reference electrolyte is diluted');

  // The day before the last run: that run has tested it, and the zero had not come back.
  const { rows } = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const { sensorId, due } = rows.find((r) => r.loopName === 'Multi-probe pH')!;
  expect(due.reason).toBe('every 30 days');
  const { past } = (await (await page.request.get(`${url()}/api/sensors/${sensorId}`)).json()) as SensorView;
  const last = past.at(-1)!.atMs;
  await log.getByLabel('Note what was done').selectOption('refilled');
  await log.getByLabel('On', { exact: true }).fill(new Date(last - 86_400_000).toISOString().slice(0, 10));
  await log.getByLabel('In your words').fill('3 mol/kg KCl');
  await log.getByRole('button', { name: 'Note it' }).click();
  const told = page.getByRole('region', { name: 'What the last service told' });
  await expect(told.getByRole('heading')).toContainText('until then, probably the reference is contaminated.');
  const after = told.getByRole('row').filter({ hasText: 'After the service the zero was' });
  expect(Math.abs(toNumber(await after.innerText()))).toBeLessThan(4);
  await expect(log.getByRole('row').filter({ hasText: '3 mol/kg KCl' })).toContainText('refilled');
  await nothingForAxe(page, 'service log');
  // A refusal is said where the button is.
  const detail = 'Only what was written down within the last day can be taken back.';
  await page.route('**/services', (route) =>
    route.request().method() === 'DELETE'
      ? route.fulfill({ status: 422, json: { code: 'stands', title: 'stands', status: 422, detail } })
      : route.continue(),
  );
  await log.getByRole('button', { name: 'Take it back' }).click();
  await expect(log.getByRole('alert')).toHaveText(detail);
  await page.unroute('**/services');
  await log.getByRole('button', { name: 'Take it back' }).click();
  await expect(told).toBeHidden();

  // A day that is still to come is refused, with the way out, and what was typed stays.
  await log.getByLabel('On', { exact: true }).fill(new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10));
  await log.getByLabel('In your words').fill('too early');
  await log.getByRole('button', { name: 'Note it' }).click();
  await expect(log.getByRole('alert')).toHaveText('That is still to come. Note it when it is done.');
  await expect(log.getByLabel('In your words')).toHaveValue('too early');
});

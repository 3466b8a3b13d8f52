import { expect, test } from '@playwright/test';
import type { MarginsView, SensorView } from '@frustum/contract';
import { nothingForAxe } from '../support/axe.ts';
import { Operator, toNumber, url } from '../support/operator.ts';

test('which half is failing: the diluted reference and the aged glass, on what evidence, and the test that would tell', async ({
  page,
}) => {
  const operator = new Operator(page);
  await operator.opens();
  const half = page.getByRole('region', { name: 'Which half is failing' });

  await page.getByRole('link', { name: 'Multi-probe pH', exact: true }).first().click();
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

  await operator.opens();
  await page.getByRole('link', { name: 'Line 1 pH', exact: true }).first().click();
  await expect(half.getByRole('heading')).toContainText('Probably the glass has aged: replace the sensor.');
  await expect(half.getByRole('row').filter({ hasText: 'Answers in' })).toContainText('for it');
});

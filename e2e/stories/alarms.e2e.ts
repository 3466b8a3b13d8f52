import type { AlarmsView } from '@frustum/contract';
import { nothingForAxe } from '../support/axe.ts';
import { Operator, url } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

test('alarms: one for each cause, seen by a person, and quiet from then on', async ({ page }) => {
  const operator = new Operator(page);
  await operator.opens();
  // The house has been looked at soon after its start: a diluted reference, aged glass, a sensor that is outside.
  await expect(page.getByRole('link', { name: /^Alarms, \d+ waiting/ })).toBeVisible({ timeout: 60_000 });
  const read = async () => (await (await page.request.get(`${url()}/api/alarms`)).json()) as AlarmsView;
  await expect
    .poll(async () => (await read()).standing.map((a) => a.text))
    .toEqual(
      expect.arrayContaining([
        'Line 1 pH: probably the glass has aged. To do: replace the sensor.',
        expect.stringContaining('Multi-probe potassium is probably outside its tolerance.'),
      ]),
    );
  await page.getByRole('link', { name: /^Alarms/ }).click();
  const aged = page.getByRole('listitem').filter({ hasText: 'Line 1 pH: probably the glass has aged' });
  const waiting = page.getByRole('region', { name: 'Waiting', exact: true });
  await expect(waiting.getByRole('listitem').filter({ hasText: 'glass has aged' })).toHaveCount(1);
  await nothingForAxe(page, 'alarms');
  const before = (await read()).standing.filter((a) => !a.acknowledgedAt).length;
  await aged.getByRole('button', { name: /^I have seen it/ }).click();
  await expect(aged).toContainText('seen by Operator A');
  await expect(waiting.getByText('glass has aged')).toHaveCount(0);
  await page.reload();
  await expect(aged).toContainText('seen by Operator A');
  expect((await read()).standing.filter((a) => !a.acknowledgedAt).length).toBeLessThanOrEqual(before);
  await aged.getByRole('link', { name: /^See the sensor/ }).click();
  await expect(page.getByRole('heading', { name: 'Line 1 pH' })).toBeVisible();
});

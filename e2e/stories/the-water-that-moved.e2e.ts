import type { MarginsView, SensorView } from '@frustum/contract';
import { Operator, toNumber, url } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

/** A probe that has just come back from the bench says nothing of its water for some minutes: no other story takes this one. */
test('the water that moved: what a reading that left its usual place may be, and what a grab sample then says', async ({
  page,
}) => {
  const operator = new Operator(page);
  const { rows } = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const { channelId, sensorId, workingValue } = rows.find((r) => r.loopName === 'Remineralised line pH')!;
  const moves = (severity: number) =>
    page.request.post(`${url()}/api/stand-in/${channelId}`, {
      data: { action: 'fault', fault: 'process moved', severity },
    });
  const half = page.getByRole('region', { name: 'Which half is failing' });
  const reading = half.getByRole('row').filter({ hasText: 'from what it usually is at this hour' });
  await moves(0.6);
  try {
    // 0.3 pH more is some 17 mV less; the water needs its time.
    const away = async () => {
      const view = (await (await page.request.get(`${url()}/api/sensors/${sensorId}`)).json()) as SensorView;
      return view.health?.evidence.find((e) => e.piece === 'readingMoved')?.figure.value ?? 0;
    };
    // Evidence is in steps of 0.59 mV: this is beyond −14 mV.
    await expect.poll(away, { timeout: 300_000, intervals: [3000] }).toBeLessThan(-25);
    await operator.opens(`/sensors/${sensorId}`);
    expect(toNumber(await reading.innerText())).toBeLessThan(-14);
    await expect(half).toContainText('Take a grab sample and hold it against the reading.');
    await half.getByRole('link', { name: 'Start it' }).click();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await page.getByRole('button', { name: /^The sample is drawn/ }).click({ timeout: 90_000 });
    const kept = toNumber(await page.getByText('The reading kept with it:').innerText());
    expect(Math.abs(kept - workingValue - 0.3)).toBeLessThan(0.12);
    // Measured on the bench in the drawn sample: the water is where the probe says it is.
    await page.getByRole('textbox', { name: 'Found' }).fill(kept.toFixed(2));
    await page.getByRole('textbox', { name: 'Its ±, k = 2' }).fill('0.04');
    await page.getByRole('textbox', { name: 'Measured at' }).fill('20');
    await page.getByRole('button', { name: 'Hold it against the reading' }).click();
    await page.getByRole('button', { name: /^Leave it/ }).click();
    await page.getByRole('button', { name: /^Finish the run/ }).click();
    await expect(page.getByRole('link', { name: 'Back to Margins' })).toBeVisible();
    await operator.opens(`/sensors/${sensorId}`);
    await expect(half.getByRole('heading')).toHaveText(
      'Which half? Probably the water has moved, not the sensor: look at the process.',
    );
  } finally {
    await moves(0);
  }
});

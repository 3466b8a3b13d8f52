import { nothingForAxe } from '../support/axe.ts';
import { Operator, toNumber } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

/** What the stand-in controller says of a probe, asked past the application. */
async function controllerSays(key: string): Promise<{ mv: number; celsius: number }> {
  const answer = (await (await fetch(process.env['FRUSTUM_JSON_URL']!)).json()) as {
    probes: Record<string, { signal: { mv: number }; water: { celsius: number } }>;
  };
  const probe = answer.probes[key]!;
  return { mv: probe.signal.mv, celsius: probe.water.celsius };
}

test('a controller that speaks JSON is tried, mended, set up, and read live on the bench', async ({ page }) => {
  const operator = new Operator(page);
  const url = process.env['FRUSTUM_JSON_URL']!;
  await operator.opens('/set-up/add');
  await page.getByRole('combobox', { name: 'Site' }).fill('Tidewater House');
  await page.getByRole('textbox', { name: 'Loop', exact: true }).fill('Controller pH');
  await page.getByLabel('Works at, pH').fill('8.1');
  await page.getByRole('radio', { name: 'JSON over HTTP' }).check();

  // Nothing yet: the form says what is missing, at its field, before anything is sent.
  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByText('The address is missing. Type it like http://')).toBeVisible();

  // Nobody on that port; then a path that leads nowhere, with what is there instead; then it answers.
  const tried = page.getByRole('form', { name: 'Add a loop' }).getByRole('status');
  await page.getByLabel('Address').fill(url.replace(/:\d+/, ':9'));
  await page.getByLabel('Path to the signal').fill('/probes/display-backup/mv');
  await page.getByLabel('Path to the temperature').fill('/water');
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText(/refused|connect/);
  await page.getByLabel('Address').fill(url);
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText('There is no “mv” at /probes/display-backup; it has signal, water');
  // Without a manual: its answer is looked through, and the two figures are tapped.
  await page.getByText('No manual? Look what it has to offer').click();
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await page.getByRole('button', { name: 'It is the signal: /probes/display-backup/signal/mv' }).click();
  await page.getByRole('button', { name: 'It is the temperature: /probes/display-backup/water/celsius' }).click();
  await expect(page.getByLabel('Path to the signal')).toHaveValue('/probes/display-backup/signal/mv');
  await nothingForAxe(page, 'what a device has to offer');
  await page.getByText('No manual? Look what it has to offer').click();
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText(/It answers: −?\d+\.\d mV at \d+\.\d °C/);
  const { mv } = await controllerSays('display-backup');
  const answer = /It answers: (−?\d+\.\d) mV/.exec(await tried.innerText())![1]!;
  expect(Math.abs(toNumber(answer) - mv)).toBeLessThan(5);

  await page.getByRole('button', { name: 'Add the sensor' }).click();
  await expect(page.getByRole('heading', { name: 'Controller pH' })).toBeVisible();
  await page.getByRole('link', { name: 'To the bench' }).click();
  await expect(page.getByText('live over HTTP')).toBeVisible();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await operator.confirms(/It is out and rinsed/);
  await operator.confirmsAndWillPress(/It is in the cup/);
  // Its millivolts, as an ideal channel shows them: 7 − mV/59 at 25 °C or so.
  const shown = page.getByTestId('shown-value');
  await expect(shown).toHaveText(/\d/);
  const now = await controllerSays('display-backup');
  const k = (Math.LN10 * 8.314462618 * (now.celsius + 273.15)) / 96.48533212;
  expect(Math.abs(toNumber(await shown.innerText()) - (7 - now.mv / k))).toBeLessThan(0.1);
  await expect(page.getByTestId('settling-state')).not.toContainText('No live value');
});

test('two more wires: any Modbus map with its raw words, and a SenML pack over MQTT by the names of its records', async ({
  page,
}) => {
  const operator = new Operator(page);
  const margins = (await (await fetch(`${process.env['FRUSTUM_URL']}/api/margins`)).json()) as {
    rows: { loopName: string; channel: { port: number; baseAddress: number } }[];
  };
  const { channel } = margins.rows.find((r) => r.loopName === 'Rinse line pH')!;
  await operator.opens('/set-up/add');
  await page.getByRole('radio', { name: 'Modbus TCP, any other map' }).check();
  await page.getByLabel('Host').fill('127.0.0.1');
  await page.getByLabel('Port').fill(String(channel.port));
  await page.getByLabel('Signal register').fill(String(channel.baseAddress));
  await page.getByLabel('Scale', { exact: true }).fill('0,1');
  await page.getByLabel('Temperature register').fill(String(channel.baseAddress + 1));
  await page.getByLabel('Temperature scale').fill('0.01');
  await page.getByRole('button', { name: 'Read it once' }).click();
  const tried = page.getByRole('form', { name: 'Add a loop' }).getByRole('status');
  await expect(tried).toContainText(/It answers: −?\d+\.\d mV at \d+\.\d °C/);
  await expect(tried).toContainText(`signal, input register ${channel.baseAddress}, int16: `);
  const [, mv, raw] = /It answers: (−?\d+\.\d) mV[\s\S]*?\(hex\) = (-?\d+)/.exec(await tried.innerText())!;
  expect(toNumber(mv!)).toBeCloseTo(Number(raw) / 10, 9);
  // The wrong scale is beyond any electrode, and says so.
  await page.getByLabel('Scale', { exact: true }).fill('1000');
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText(
    'nothing of the kind is below −2000 or above 2000. Check scale, unit and the span.',
  );

  const { port } = new URL(process.env['FRUSTUM_MQTT_URL']!);
  await page.getByRole('radio', { name: 'MQTT' }).check();
  await page.getByLabel('Broker').fill('127.0.0.1');
  await page.getByLabel('Port').fill(port);
  await page.getByLabel('Topic').fill('tidewater/rinse-line/senml');
  await page.getByLabel('A message is').selectOption('a SenML pack');
  await page.getByLabel('Name of the signal').fill('potential');
  await page.getByLabel('Scale', { exact: true }).fill('1000');
  await page.getByLabel('Path to the temperature').fill('rinse-line/water');
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText('the pack has no “potential”; it has rinse-line/potential, rinse-line/water');
  await page.getByLabel('Name of the signal').fill('rinse-line/potential');
  await page.getByRole('button', { name: 'Read it once' }).click();
  await expect(tried).toContainText(/It answers: −?\d+\.\d mV at \d+\.\d °C/);
  const [, scaled, volts] = /It answers: (−?\d+\.\d) mV[\s\S]*?potential: (-?[\d.e-]+) V/.exec(
    await tried.innerText(),
  )!;
  expect(toNumber(scaled!)).toBeCloseTo(1000 * Number(volts), 1);
});

test('a channel is changed after set-up: typed by hand yesterday, read from the controller today', async ({ page }) => {
  const added = await page.request.post(`${process.env['FRUSTUM_URL']}/api/sensors`, {
    data: {
      siteName: 'Tidewater House',
      loopName: 'Settling pond pH',
      place: '',
      family: 'ph',
      settings: {},
      workingValue: 8,
      workingC: 25,
      tolerance: 0.2,
      intervalDays: 30,
      controls: '',
      pointSet: ['technical-7.00', 'technical-10.01'],
      sensorName: 'Settling pond probe',
      serial: '',
      fittedOn: '2026-11-01',
      channel: { kind: 'hand' },
    },
  });
  const { sensorId } = (await added.json()) as { sensorId: string };
  const operator = new Operator(page);
  await operator.opens(`/sensors/${sensorId}`);
  const channel = page.getByRole('region', { name: 'Channel' });
  await expect(channel).toContainText('typed by hand');
  await channel.getByRole('link', { name: 'Change the channel' }).click();
  await page.getByRole('radio', { name: 'JSON over HTTP' }).check();
  await page.getByLabel('Address').fill(process.env['FRUSTUM_JSON_URL']!);
  await page.getByLabel('Path to the signal').fill('/probes/display-main/signal/mv');
  await page.getByLabel('Path to the temperature').fill('/probes/display-main/water/celsius');
  await page.getByText('Coefficients, thermometer').click();
  await page.getByLabel('Outputs on it').fill('alarm, CO2 valve');
  await page.getByLabel('Its range begins at').fill('300');
  await page.getByLabel('and ends at').fill('100');
  await page.getByRole('button', { name: 'Change the channel' }).click();
  await expect(page.getByText('The range ends below its beginning. Swap the two.')).toBeVisible();
  await page.getByLabel('Its range begins at').fill('-414');
  await page.getByLabel('and ends at').fill('414');
  await page.getByRole('button', { name: 'Change the channel' }).click();
  await expect(channel).toContainText('alarm, CO2 valve');
  await expect(channel).toContainText('-414 to 414 mV');
  await expect(channel.locator('[data-channel=live]')).toBeVisible();
  // Uncalibrated it shows what an ideal electrode would: near the display's eight, by a tenth or two.
  const value = channel.locator('dd').first();
  await expect(value).toContainText(/\d\.\d\d/);
  const shown = toNumber(await value.innerText());
  expect(Math.abs(shown - 8.05)).toBeLessThan(0.5);
});

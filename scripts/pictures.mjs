// node scripts/pictures.mjs: takes the pictures of docs/screenshots anew, from a fresh demo house.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { chromium as chromiumHere } from './lib/debian.mjs';
import { prepare, root } from './lib/prepare.mjs';
import { end, start } from './lib/children.mjs';

await prepare();
const folder = mkdtempSync(join(tmpdir(), 'frustum-pictures-'));
const free = {
  FRUSTUM_DATA: folder,
  FRUSTUM_HANDS_PORT: '0',
  FRUSTUM_JSON_PORT: '0',
  FRUSTUM_MQTT_PORT: '0',
  FRUSTUM_MULTIPROBE_PORT: '0',
  FRUSTUM_INSTRUMENTS_PORT: '0',
  FRUSTUM_MODBUS_PORT: '0',
  FRUSTUM_CLOCK_RATE: '10',
};
const stand = await start('sim/dist/main.js', free);
const { url } = await start('server/dist/main.js', {
  ...free,
  PORT: '0',
  FRUSTUM_DEMO_BUNDLE: stand.bundleFile,
  FRUSTUM_HANDS_URL: stand.handsUrl,
});
const browser = await chromium.launch({
  executablePath: chromiumHere() ?? '',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
const open = async (width, height, theme) => {
  const page = await browser.newPage({ viewport: { width, height } });
  await page.addInitScript((t) => localStorage.setItem('frustum.settings', JSON.stringify({ theme: t })), theme);
  return page;
};
const shoot = (page, name) => page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
const cones = (page) => page.getByRole('img', { name: /pH/ }).locator('path').first().waitFor();
const page = await open(1280, 800, 'daylight');
const button = (name) => page.getByRole('button', { name });
const hand = (name) => page.getByRole('group', { name: 'Stand-in’s hands' }).getByRole('button', { name, exact: true });
const moved = async (name) => {
  await hand(name).click();
  await page.locator(`button[aria-pressed=true]:text-is("${name}")`).waitFor();
};

await page.goto(url);
await cones(page);
await page.waitForLoadState('networkidle').catch(() => undefined);
await shoot(page, 'margins');
await page.getByRole('link', { name: 'Multi-probe pH', exact: true }).click();
await page.getByRole('region', { name: 'Error over time' }).locator('path').first().waitFor();
await page.getByRole('region', { name: 'Zero' }).locator('path').first().waitFor();
await shoot(page, 'sensor');
const back = page.getByRole('region', { name: 'Look-back' });
await page.goto(url);
await page.getByRole('link', { name: 'Multi-probe potassium', exact: true }).click();
await back.waitFor();
await page.getByRole('region', { name: 'Readings' }).locator('path').first().waitFor();
await back.evaluate((section) => section.scrollIntoView());
await shoot(page, 'look-back');
await page.goto(`${url}/alarms`);
await page
  .getByRole('button', { name: /^I have seen it/ })
  .nth(3)
  .waitFor({ timeout: 60_000 });
await shoot(page, 'alarms');
await page.goto(`${url}/limits`);
await page
  .getByRole('img', { name: /^Display oxygen over 14 days/ })
  .locator('path')
  .first()
  .waitFor();
const taken = page.getByRole('checkbox', { name: 'Take these for Display ORP' });
await taken.check();
// It fades in.
await taken.evaluate((box) => Promise.all(box.getAnimations({ subtree: true }).map((a) => a.finished)));
await shoot(page, 'limits');
await page.goto(`${url}/set-up/backups`);
await button('Make a snapshot now').click();
await button(/^Restore … /).click();
await page.getByRole('heading', { name: /is ready/ }).waitFor();
await shoot(page, 'backups');
await button('Let go of it').click();
await page.goto(`${url}/set-up`);
await page.getByRole('button', { name: 'Change Display ORP' }).click();
await page.getByLabel('Tolerance, ± mV').fill('10');
await page.getByRole('status', { name: 'What it would mean' }).getByText('margin').waitFor();
await shoot(page, 'set-up');
await page.getByRole('link', { name: 'Its sensor’s life' }).click();
await page.getByRole('heading', { name: 'What it has been through' }).waitFor();
await shoot(page, 'life');

// A sum of the Reckoner, worked out; the few before it stand in the last ones.
await page.goto(`${url}/reckoner`);
const sums = [
  ['buffer at', '23.4'],
  ['ec ppm', '1.9'],
  ['activity', '0.01'],
  ['gravity', '51.2', '24'],
];
for (const [words, ...figures] of sums) {
  await page.locator('#look-for').fill(words);
  await page.keyboard.press('Enter');
  await page.locator('input[id^=field-]:focus').waitFor();
  for (const [i, text] of figures.entries()) {
    if (i > 0) await page.keyboard.press('Tab');
    await page.keyboard.type(text);
  }
}
await page
  .getByRole('img', { name: /over conductivity/ })
  .locator('path')
  .first()
  .waitFor();
await page.locator('#look-for').fill('');
await page.getByText('51.2 mS/cm, 24 °C → 34.374 PSS-78').waitFor();
await shoot(page, 'reckoner');

// One run of the aged probe, up to its verdict.
await page.goto(url);
await page.getByRole('link', { name: 'Bench for Line 1 pH' }).click();
await button('Start the run').click();
await button(/It is on hold/).click();
await moved('Rinse');
await button(/It is out and rinsed/).click();
const capture = button(/^Capture −?\d/);
const step = page.locator('li[aria-current=step]');
for (const [i, cup] of ['Cup 7.00', 'Cup 4.01'].entries()) {
  await moved('Rinse');
  await moved(cup);
  await button(/It is in the cup/).click();
  if (i === 1) {
    await page.getByText(/^Settling, .* to go/).waitFor({ timeout: 120_000 });
    await shoot(page, 'bench');
  }
  for (;;) {
    const id = await step.getAttribute('data-step');
    if (!/settle|repeat/.test(id)) break;
    if (id.includes('repeat')) {
      await hand('Wiggle').click();
      await button(/^(Wiggled|Disturbed)/).click();
    }
    // It is captured by itself, unless a doubt wants a word.
    const moved = page.locator(`li[aria-current=step]:not([data-step="${id}"])`);
    const first = await Promise.race([
      moved.waitFor({ timeout: 180_000 }).then(() => 'moved'),
      capture.waitFor({ timeout: 180_000 }).then(() => 'doubted'),
    ]);
    if (first === 'doubted') await capture.click({ timeout: 2000 }).catch(() => undefined);
    await moved.waitFor({ timeout: 120_000 });
  }
}
await page.getByTestId('verdict').waitFor();
await page.getByRole('region', { name: 'What if I do nothing' }).waitFor();
await shoot(page, 'verdict');

// Its record so far, first page.
const record = await page.request.get(`${url}/api/runs/${/bench\/([0-9a-f-]+)/.exec(page.url())[1]}/record.pdf`);
writeFileSync(join(folder, 'record.pdf'), await record.body());
spawnSync('pdftoppm', [
  '-r',
  '80',
  '-png',
  '-singlefile',
  join(folder, 'record.pdf'),
  join(root, 'docs/screenshots/record'),
]);
const verdict = page.url();

// The start page of an ion tip, and a procedure of one's own.
await page.goto(url);
await page.getByRole('link', { name: 'Bench for Multi-probe nitrate' }).click();
await button('Start the run').waitFor();
await shoot(page, 'start');
await page.goto(`${url}/set-up/procedures`);
await button('Make one').click();
await page.getByLabel('Name').fill('Sump pH, our way');
await button('One more step').click();
await page.getByLabel('Title', { exact: true }).fill('Photograph the glass');
await page.getByText('Photograph the glass', { exact: true }).waitFor();
await page.keyboard.press('Control+Home');
await shoot(page, 'procedures');

// Several at once: two more beside the one that waits for its verdict.
await page.goto(`${url}/bench/many`);
await button('Another probe to the bench').click();
for (const name of [/^Display pH, main/, /^Remineralised line pH/]) await page.getByRole('checkbox', { name }).check();
await button('Start 2 runs').click();
const channels = Object.fromEntries(
  (await (await page.request.get(`${url}/api/margins`)).json()).rows.map((r) => [r.loopName, r.channelId]),
);
const move = async (loop, place) => {
  for (const order of [{ action: 'move', place: 'rinse' }, { action: 'blot' }, { action: 'move', place }])
    await page.request.post(`${url}/api/stand-in/${channels[loop]}`, { data: order });
};
const rowOf = (name) => page.getByRole('region', { name: 'Runs on the bench' }).getByRole('button', { name });
// The verdict that waits is named first: to work on another run, pick it, for each step anew.
await rowOf(/^Display pH, main/).click();
await button(/It is on hold/).click();
for (const loop of ['Display pH, main', 'Remineralised line pH']) {
  await rowOf(new RegExp(`^${loop}`)).click();
  await button(/It is out and rinsed/).click();
}
await rowOf(/^Display pH, main/).click();
await move('Display pH, main', 'cup-7.00');
await button(/It is in the cup/).click();
await rowOf(/^Display pH, main/).click();
await page.getByText(/^Settling, .* to go/).waitFor({ timeout: 120_000 });
await shoot(page, 'several');

const phone = await open(390, 844, 'night');
await phone.goto(url);
await cones(phone);
await shoot(phone, 'phone-margins');
await phone.goto(verdict);
await phone.getByTestId('verdict').waitFor();
await shoot(phone, 'phone-bench');
await phone.goto(`${url}/bench/many`);
await phone.getByTestId('next-movement').waitFor();
await phone.getByText('Reading …').first().waitFor({ state: 'hidden' });
await shoot(phone, 'phone-several');
// Displays that nobody but people reads, each in its own scale, and a figure that lost its comma.
const displays = [
  ['Nursery pH', 'ph-shown', 5.8, 0.1, '', 0.1],
  ['Nursery EC', 'conductivity', 1900, 60, 'ppm×700', 10],
  ['Propagation temperature', 'temperature', 25, 0.5, '°F', 0.1],
  ['Quarantine salinity', 'salinity', 33, 0.5, 'SG 25/25', 0.001],
];
for (const [loopName, family, workingValue, tolerance, scale, step] of displays)
  await phone.request.post(`${url}/api/sensors`, {
    data: {
      siteName: 'Tidewater House',
      loopName,
      place: 'Propagation room',
      family,
      settings: {},
      workingValue,
      workingC: 24,
      tolerance,
      intervalDays: 30,
      shownAs: { scale, step },
      sensorName: `${loopName} probe`,
      fittedOn: '2026-01-02',
      channel: { kind: 'hand' },
    },
  });
await phone.goto(`${url}/walk`);
await phone.getByRole('button', { name: 'Begin the walk' }).click();
await phone.getByLabel('It shows', { exact: true }).fill('1330');
await phone.keyboard.press('Enter');
await phone.getByText('Nursery pH').nth(1).waitFor();
await phone.getByLabel('It shows', { exact: true }).fill('58');
await phone.keyboard.press('Enter');
await phone.getByText('Is the comma where it belongs?').waitFor();
await shoot(phone, 'phone-walk');
await browser.close();
rmSync(folder, { recursive: true, force: true });
await end(0);

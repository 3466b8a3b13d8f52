import { createServer } from 'node:http';
import { createServer as tcpServer, type AddressInfo } from 'node:net';
import { Aedes } from 'aedes';
import { startRelay } from '@frustum/sim';
import type { AlarmsView, MarginsView } from '@frustum/contract';
import { houseOfItsOwn, type Application } from '../support/application.ts';
import { nothingForAxe } from '../support/axe.ts';
import { OperatorTime } from '../support/operator-time.ts';
import { expect, test } from '../support/story.ts';

let application: Application;
test.beforeAll(async () => {
  application = await houseOfItsOwn();
});
test.afterAll(() => application.stop());

interface Told {
  readonly event: string;
  readonly level?: string;
  readonly text: string;
}

/** A webhook, a broker and a relay of the operator's own. */
async function receivers() {
  const [hook, heard]: [Told[], Told[]] = [[], []];
  const web = createServer((incoming, response) => {
    let text = '';
    incoming.on('data', (part: Buffer) => (text += part.toString()));
    incoming.on('end', () => {
      hook.push(JSON.parse(text) as Told);
      response.end();
    });
  });
  await new Promise<void>((resolve) => web.listen(0, '127.0.0.1', resolve));
  const aedes = await Aedes.createBroker();
  aedes.on('publish', ({ topic, payload }) => {
    if (topic === 'plant/alarms') heard.push(JSON.parse(payload.toString()) as Told);
  });
  const net = tcpServer(aedes.handle);
  await new Promise<void>((resolve) => net.listen(0, '127.0.0.1', resolve));
  const relay = await startRelay();
  const portOf = (server: { address: () => unknown }) => (server.address() as AddressInfo).port;
  return {
    hook,
    heard,
    mails: relay.mails,
    webPort: portOf(web),
    mqttPort: portOf(net),
    mailPort: relay.port,
    close: async () => {
      web.close();
      net.close();
      await new Promise<void>((resolve) => aedes.close(() => resolve()));
      await relay.close();
    },
  };
}

test('limits of five loops in under a minute; the water leaves its range at night, and every way is used', async ({
  page,
}) => {
  const { url } = application;
  const to = await receivers();
  const hand = new OperatorTime();
  await page.goto(`${url}/limits`);
  const row = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('heading', { name, exact: true }) });
  for (const name of ['Display pH, main', 'Display salinity', 'Display temperature', 'Line 1 EC', 'Line 1 pH']) {
    await row(name).scrollIntoViewIfNeeded();
    await expect(row(name)).toContainText('Proposed: warn beyond');
    await hand.decides(row(name).getByRole('checkbox', { name: /^Take these/ }));
  }
  await nothingForAxe(page, 'limits, daylight');
  await hand.presses(page.getByRole('button', { name: 'Keep the limits of 5 loops' }));
  await expect(page.getByText('Kept for 5 loops.')).toBeVisible();
  console.log(`limits of five loops kept in ${hand.toString()}`);
  expect(hand.seconds).toBeLessThan(60);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Kept for 5 loops.')).toHaveCount(0);

  await page.goto(`${url}/alarms/ways`);
  await page.getByLabel('Address').fill(`http://127.0.0.1:${to.webPort}/`);
  await page.getByLabel('Broker', { exact: true }).fill('127.0.0.1');
  await page.getByLabel('Port of the broker').fill(String(to.mqttPort));
  await page.getByLabel('Topic', { exact: true }).fill('plant/alarms');
  await page.getByLabel('Relay', { exact: true }).fill('127.0.0.1');
  await page.getByLabel('Port of the relay').fill(String(to.mailPort));
  await page.getByLabel('Secured').selectOption('not at all');
  await page.getByLabel('From', { exact: true }).fill('bench');
  await page.getByLabel('To', { exact: true }).fill('night@tidewater.example');
  // It is night all day: only what must be acted on goes out.
  await page.getByLabel('Quiet from').fill('00:00');
  await page.getByLabel('Quiet until').fill('23:59');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByRole('alert')).toContainText('The sender is no address. Type it like bench@tank.example.');
  await page.getByLabel('From', { exact: true }).fill('bench@tidewater.example');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  for (const [way, got] of [
    ['webhook', to.hook],
    ['mqtt', to.heard],
    ['mail', to.mails],
  ] as const) {
    await page.getByRole('button', { name: `Send a test by ${way}` }).click();
    await expect.poll(() => got.some((m) => JSON.stringify(m).includes('This is a test from Frustum'))).toBe(true);
  }
  await nothingForAxe(page, 'where alarms go');

  const { rows } = (await (await page.request.get(`${url}/api/margins`)).json()) as MarginsView;
  const { loopId } = rows.find((r) => r.loopName === 'Display temperature')!;
  await page.goto(`${url}/limits?loop=${loopId}`);
  const field = (name: string) => page.getByLabel(name, { exact: true });
  // The heater sticks: what was far above is just below what it shows.
  for (const [name, text] of [['Act below, °C', ''], ['Warn below, °C', ''], ['Warn above, °C', '21,5'], ['Act above, °C', '21'], ['Beyond for, min', '0']] as const) await field(name).fill(text); // prettier-ignore
  // It is proposed along with the day; the same limit at every hour is told with the same figure.
  await page.getByLabel('The limits move along with the usual course of the day').uncheck();
  await page.getByRole('button', { name: 'Keep the limits of Display temperature' }).click();
  await expect(page.getByRole('alert')).toContainText(
    'The limits are turned round: act high is 21.0 °C, and warn high is 21.5 °C',
  );
  await field('Warn above, °C').fill('20,5');
  await page.getByRole('button', { name: 'Keep the limits of Display temperature' }).click();
  const raised = /^Display temperature shows 2\d\.\d ±\d\.\d °C, above its limit of 21\.0 °C since /;
  const isIt = (m: Told) => m.event === 'raised' && m.level === 'act' && raised.test(m.text);
  await expect.poll(() => to.hook.some(isIt) && to.heard.some(isIt)).toBe(true);
  await expect
    .poll(() => to.mails.map((m) => m.subject))
    .toContainEqual(expect.stringMatching(/^Act\. Display temperature shows 2/));
  // Notes of this house wait for the morning.
  expect(to.hook.filter((m) => m.level === 'note')).toEqual([]);

  await page.goto(`${url}/alarms`);
  const alarm = page.getByRole('listitem').filter({ hasText: raised });
  await expect(alarm).toContainText('told by webhook, mqtt, mail');
  await alarm.getByLabel(/^Later/).selectOption('in 2 h');
  await expect(page.getByRole('region', { name: 'Later' })).toContainText('Display temperature');
  await expect.poll(() => to.hook.at(-1)!.event).toBe('snoozed');
  await page.getByRole('button', { name: 'Night' }).click();
  await nothingForAxe(page, 'alarms at night, one snoozed');

  // Killed in the middle: it stands as it did, and is not told again.
  const begins = await application.killServer();
  await begins();
  await page.reload();
  await expect(page.getByRole('region', { name: 'Later' })).toContainText('Display temperature');
  const { standing } = (await (await page.request.get(`${url}/api/alarms`)).json()) as AlarmsView;
  expect(standing.filter((a) => a.kind === 'water')).toHaveLength(1);
  expect(to.hook.filter(isIt)).toHaveLength(1);
  await to.close();
});

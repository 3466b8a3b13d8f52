import { mkdtempSync, rmSync } from 'node:fs';
import type { AlarmsView } from '@frustum/contract';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './application.ts';

/** How often it is asked whether the new house has learned, and for how long at most, ms. */
const ASK_MS = 250;
const PATIENCE_MS = 600_000;

/**
 * Makes the demo's database once: its history is loaded and learned from, then the house is stopped, to be copied.
 *
 * @returns its folder
 */
async function makeTemplate(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-template-'));
  const house = await startApplication({ demo: true, folder });
  const until = Date.now() + PATIENCE_MS;
  // Alarms are looked for as soon as the house has learned from its history.
  const alarms = async () => ((await (await fetch(`${house.url}/api/alarms`)).json()) as AlarmsView).standing.length;
  while ((await alarms()) === 0) {
    if (Date.now() > until) throw new Error('The demo house has learned nothing within ten minutes.');
    await new Promise((resolve) => setTimeout(resolve, ASK_MS));
  }
  await house.stop();
  return folder;
}

/** One demo house for all stories, and the folder that others are copied from; both are gone when the last story is told. */
export default async function house(): Promise<() => Promise<void>> {
  const template = await makeTemplate();
  const application = await startApplication({ demo: true, template });
  process.env['FRUSTUM_TEMPLATE'] = template;
  process.env['FRUSTUM_URL'] = application.url;
  process.env['FRUSTUM_JSON_URL'] = application.jsonUrl;
  process.env['FRUSTUM_MQTT_URL'] = application.mqttUrl;
  process.env['FRUSTUM_INSTRUMENTS_URL'] = application.instrumentsUrl;
  return async () => {
    await application.stop();
    rmSync(template, { recursive: true, force: true });
  };
}

import { startApplication } from './application.ts';

/** One demo house for all stories; stopped when the last one is told. */
export default async function house(): Promise<() => Promise<void>> {
  const application = await startApplication({ demo: true });
  process.env['FRUSTUM_URL'] = application.url;
  process.env['FRUSTUM_JSON_URL'] = application.jsonUrl;
  process.env['FRUSTUM_MQTT_URL'] = application.mqttUrl;
  process.env['FRUSTUM_INSTRUMENTS_URL'] = application.instrumentsUrl;
  return application.stop;
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { number, object, string } from 'yup';

/** Where a broker listens if nothing is said. */
export const MQTT_PORT = 1883;

const schema = object({
  /** gets each alarm as JSON by POST */
  webhook: string()
    .matches(/^https?:\/\/[^\s@]+$/, 'webhook must be an http or https address without a log-in in it')
    .max(500),
  mqtt: object({
    host: string()
      .required()
      .max(200)
      .matches(/^[\w.-]+$/, 'mqtt.host must be a name or an IPv4 address'),
    port: number().integer().min(1).max(65_535),
    topic: string()
      .required()
      .max(200)
      .matches(/^[^#+]+$/, 'mqtt.topic must be one topic, without # and +'),
    /** name of a log-in in log-ins.json */
    logIn: string().max(60),
  }).default(undefined),
  /** so often both are told that the server runs, minutes */
  heartbeatMinutes: number()
    .min(1, 'heartbeatMinutes is below 1')
    .max(1440, 'heartbeatMinutes is above 1440: once a day'),
}).noUnknown('alarms.json knows “webhook”, “mqtt” and “heartbeatMinutes”');

/** Where alarms are told beside the screen. */
export interface Telling {
  readonly webhook?: string;
  readonly heartbeatMinutes?: number;
  readonly mqtt?: { readonly host: string; readonly port?: number; readonly topic: string; readonly logIn?: string };
}

/**
 * The operator's own `alarms.json` in the data folder: `{ "webhook": "http://…", "mqtt": { "host": …, "topic": … } }`. Read
 * anew each time: no restart after a change. No file = alarms are told on the screen alone.
 *
 * @throws Error that says what is wrong in the file
 */
export function tellingIn(folder: string): Telling {
  let text: string;
  try {
    text = readFileSync(join(folder, 'alarms.json'), 'utf8');
  } catch {
    return {};
  }
  return schema.validateSync(JSON.parse(text), { strict: true });
}

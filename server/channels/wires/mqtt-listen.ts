import type { MqttConfig } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { decodeSenml, figuresIn } from '@frustum/formats';
import type { LogIns } from '../../config/log-ins.ts';
import type { Reach } from '../reach.ts';
import { mqttClient } from './mqtt-client.ts';
import { isShown, MAX_PLACES } from './places.ts';
import { stageOf, wireRefusal, type Place } from './wire.ts';

/** So long a broker is listened to: most devices publish every second or two. */
const LISTEN_MS = 3000;
const MAX_TOPICS = 200;
/** Topics as devices have them; what is longer or stranger may be somebody's text, and is not repeated. */
const PLAIN_TOPIC = /^[\w ./:+-]{1,200}$/;

/** Listens to everything on a broker for some seconds, and gives the figures of the newest message of each topic. */
export async function listenTo(
  config: MqttConfig,
  where: string,
  logIns: LogIns,
  reach: Reach,
  shows: number | null,
): Promise<readonly Place[]> {
  const newest = new Map<string, string>();
  const client = mqttClient(config, where, logIns, reach, () => undefined);
  try {
    await new Promise<void>((resolve, reject) => {
      const done = setTimeout(() => {
        if (client.connected) resolve();
        else reject(wireRefusal(where, 'time out', 'no answer'));
      }, LISTEN_MS);
      const fail = (error: Error) => {
        clearTimeout(done);
        reject(error instanceof Refusal ? error : wireRefusal(where, stageOf(error, 'connect'), error.message || 'no connection')); // prettier-ignore
      };
      client.on('connect', () =>
        client.subscribe('#', { qos: 0 }, (error, granted) => {
          if (error || granted?.some((g) => g.qos >= 128))
            fail(wireRefusal(where, 'address', 'it may not be listened to as a whole', 'Type the topic.'));
        }),
      );
      client.on('error', fail);
      client.on('message', (topic, payload) => {
        if (PLAIN_TOPIC.test(topic) && (newest.has(topic) || newest.size < MAX_TOPICS))
          newest.set(topic, payload.toString('utf8'));
      });
    });
  } finally {
    client.end(true);
  }
  return [...newest].sort(([a], [b]) => a.localeCompare(b)).flatMap(([topic, text]) => placesIn(topic, text, shows)).slice(0, MAX_PLACES); // prettier-ignore
}

function placesIn(topic: string, text: string, shows: number | null): Place[] {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return [];
  }
  const place = (pointer: string, value: number, format: string): Place => ({
    label: `${topic} ${pointer}`.trim(),
    value,
    fits: isShown(value, shows) ? 1 : null,
    settings: { topic, pointer, format },
  });
  const pack = decodeSenml(document);
  if (pack.ok && pack.records.length)
    return [...new Map(pack.records.map((r) => [r.name, r])).values()]
      .filter((r) => PLAIN_TOPIC.test(r.name))
      .map((r) => place(r.name, r.value, 'senml'));
  return figuresIn(document, MAX_PLACES).map(({ pointer, value }) => place(pointer, value, 'json'));
}

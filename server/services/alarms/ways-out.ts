import { connectAsync, type MqttClient } from 'mqtt';
import { logInOf } from '../../channels/wires/wire.ts';
import { logInsIn } from '../../config/log-ins.ts';
import { MQTT_PORT, type Telling } from '../../config/telling.ts';
import type { AlarmMessage } from '../../store/schema/index.ts';

const TIMEOUT_MS = 5000;
/** A broker that has gone is looked for again so often, ms. */
const RECONNECT_MS = 5000;

/** A message that its receiver will not have, however often it is sent. */
export class NotTaken extends Error {}

/** Answers that say no to this very message, not to the moment: RFC 9110, section 15.5. */
const NEVER = new Set([400, 413, 415, 422]);

/** @throws Error that says in a word why nobody answers */
async function reached(url: string, request: RequestInit): Promise<Response> {
  try {
    return await fetch(url, request);
  } catch (error) {
    const { name, cause } = error as { name: string; cause?: { code?: string } };
    if (name === 'TimeoutError') throw new Error(`no answer within ${TIMEOUT_MS / 1000} s`, { cause: error });
    throw new Error(`it cannot be reached${cause?.code ? ` (${cause.code})` : ''}`, { cause: error });
  }
}

/** @throws Error with the answer in words; `NotTaken` when trying again would not help */
export async function post(url: string, message: AlarmMessage): Promise<void> {
  const response = await reached(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(message),
    redirect: 'error',
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  await response.body?.cancel();
  if (NEVER.has(response.status)) throw new NotTaken(`it answers ${response.status}`);
  if (!response.ok) throw new Error(`it answers ${response.status}`);
}

/**
 * A standing connection to the operator's broker. The broker itself tells the topic when we are gone without a word (the
 * will of MQTT 3.1.1, section 3.1.2.5): silence is noticed though nobody is left to speak.
 */
export class MqttLine {
  private client: MqttClient | null = null;
  private opening: Promise<MqttClient> | null = null;
  private to = '';

  /** @param will what the broker says when this connection breaks */
  async publish(
    mqtt: NonNullable<Telling['mqtt']>,
    folder: string,
    will: AlarmMessage,
    message: AlarmMessage,
  ): Promise<void> {
    const to = JSON.stringify(mqtt);
    if (this.to !== to) await this.close();
    // An alarm and a heartbeat may come at once: both use one connection.
    if (!this.client) {
      this.opening ??= this.open(mqtt, folder, will).finally(() => (this.opening = null));
      this.client = await this.opening;
    }
    this.to = to;
    if (!this.client.connected) throw new Error(`${mqtt.host} is not connected`);
    await within(TIMEOUT_MS, this.client.publishAsync(mqtt.topic, JSON.stringify(message), { qos: 1 }));
  }

  /** Takes leave: the broker says nothing then. */
  async close(): Promise<void> {
    const { client } = this;
    this.client = null;
    await within(TIMEOUT_MS, client?.endAsync() ?? Promise.resolve()).catch(() => client?.end(true));
  }

  private async open(mqtt: NonNullable<Telling['mqtt']>, folder: string, will: AlarmMessage): Promise<MqttClient> {
    const { host, port = MQTT_PORT, topic, logIn } = mqtt;
    const known = logInOf(`${host}:${port}`, logInsIn(folder), logIn ?? '');
    const payload = Buffer.from(JSON.stringify(will));
    const options = {
      ...(known ?? {}),
      connectTimeout: TIMEOUT_MS,
      will: { topic, payload, qos: 1 as const, retain: false },
    };
    const client = await connectAsync(`mqtt://${host}:${port}`, { ...options, reconnectPeriod: RECONNECT_MS }, false);
    // What goes wrong between two messages is said by the next one.
    client.on('error', () => undefined);
    return client;
  }
}

async function within<T>(ms: number, work: Promise<T>): Promise<T> {
  let late: NodeJS.Timeout | undefined;
  const tooLate = new Promise<never>((_, reject) => {
    late = setTimeout(() => reject(new Error(`no answer within ${ms / 1000} s`)), ms);
  });
  try {
    return await Promise.race([work, tooLate]);
  } finally {
    clearTimeout(late);
  }
}

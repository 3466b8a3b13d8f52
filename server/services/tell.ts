import { connectAsync } from 'mqtt';
import { logInOf } from '../channels/wire.ts';
import { logInsIn } from '../config/log-ins.ts';
import { tellingIn, type Telling } from '../config/telling.ts';

/** What is told of an alarm, to whatever the operator has named. */
export interface Told {
  readonly event: 'raised' | 'acknowledged' | 'over';
  readonly at: string;
  readonly id: string;
  readonly kind: string;
  readonly text: string;
  /** who acknowledged it; '' otherwise */
  readonly by: string;
}

const TIMEOUT_MS = 5000;
const MQTT_PORT = 1883;
/** Tried again after so long, ms. */
const AGAIN_MS = [2000, 10_000];

/** Tells alarms to a webhook and an MQTT topic; what cannot be told is said on the screen, and never holds anything up. */
export class Teller {
  private readonly folder: string;
  private readonly waits: readonly number[];
  /** why the last one could not be told; null = it could, or nobody has to be told */
  trouble: string | null = null;

  constructor(folder: string, waits: readonly number[] = AGAIN_MS) {
    this.folder = folder;
    this.waits = waits;
  }

  /** Where alarms go, in words, and what is wrong there. */
  get where(): { readonly webhook: string | null; readonly mqtt: string | null; readonly trouble: string | null } {
    try {
      const { webhook, mqtt } = tellingIn(this.folder);
      return {
        webhook: webhook ? new URL(webhook).host : null,
        mqtt: mqtt ? `${mqtt.topic} at ${mqtt.host}:${mqtt.port ?? MQTT_PORT}` : null,
        trouble: this.trouble,
      };
    } catch (error) {
      return { webhook: null, mqtt: null, trouble: `alarms.json: ${messageOf(error)}` };
    }
  }

  async tell(told: Told): Promise<void> {
    let telling: Telling;
    try {
      telling = tellingIn(this.folder);
    } catch {
      // Said by `where`.
      return;
    }
    const { webhook, mqtt } = telling;
    const troubles = await Promise.all([
      webhook ? this.tried('Webhook', () => post(webhook, told)) : null,
      mqtt ? this.tried('MQTT', () => publish(mqtt, this.folder, told)) : null,
    ]);
    this.trouble = troubles.filter((t) => t !== null).join(' ') || null;
  }

  private async tried(name: string, act: () => Promise<void>): Promise<string | null> {
    for (let i = 0; ; i++) {
      try {
        await act();
        return null;
      } catch (error) {
        const wait = this.waits[i];
        if (wait === undefined) return `${name}: ${messageOf(error)}.`;
        await new Promise((resolve) => setTimeout(resolve, wait));
      }
    }
  }
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

async function post(url: string, told: Told): Promise<void> {
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(told),
    redirect: 'error',
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  await response.body?.cancel();
  if (!response.ok) throw new Error(`it answers ${response.status}`);
}

async function publish(
  { host, port = MQTT_PORT, topic, logIn }: NonNullable<Telling['mqtt']>,
  folder: string,
  told: Told,
): Promise<void> {
  const known = logInOf(`${host}:${port}`, logInsIn(folder), logIn ?? '');
  const client = await connectAsync(
    `mqtt://${host}:${port}`,
    { ...(known ?? {}), connectTimeout: TIMEOUT_MS, reconnectPeriod: 0 },
    false,
  );
  try {
    await client.publishAsync(topic, JSON.stringify(told), { qos: 1 });
  } finally {
    await client.endAsync(true);
  }
}

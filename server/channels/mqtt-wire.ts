import { connect, type MqttClient } from 'mqtt';
import type { MqttConfig } from '@frustum/contract';
import { celsius } from '@frustum/core';
import { decodeSenml, figureOf, pointedAt } from '@frustum/formats';
import { celsiusOf, millivoltsOf, stageOf, wireRefusal, type Wire, type WireReading } from './wire.ts';

const CONNECT_MS = 3000;
const RECONNECT_MS = 1000;
/** No instrument says more than this in one message. */
const MOST_BYTES = 256 * 1024;

interface Waiting {
  readonly resolve: (text: string) => void;
  readonly reject: (error: Error) => void;
}

/** A device that publishes: subscribes once, and a reading is the next message, or one that came since the last reading. */
export class MqttWire implements Wire {
  private readonly config: MqttConfig;
  private readonly where: string;
  private client: MqttClient | null = null;
  private unread: string | null = null;
  private trouble: Error | null = null;
  private waiting: Waiting | null = null;

  constructor(config: MqttConfig) {
    this.config = config;
    this.where = `${config.host}:${config.port}`;
  }

  async read(): Promise<WireReading> {
    this.client ??= this.open();
    const text = await this.next();
    let document: unknown;
    try {
      document = JSON.parse(text);
    } catch {
      throw wireRefusal(this.where, 'decode', `${this.config.topic} carries no JSON but “${text.slice(0, 40)}”`);
    }
    return this.readingOf(document);
  }

  close(): void {
    this.client?.end(true);
    this.client = null;
    this.fail(wireRefusal(this.where, 'read', 'the channel was closed'));
  }

  private open(): MqttClient {
    const { host, port, topic, version } = this.config;
    const client = connect({
      protocol: 'mqtt',
      host,
      port,
      protocolVersion: version === '5' ? 5 : 4,
      connectTimeout: CONNECT_MS,
      reconnectPeriod: RECONNECT_MS,
    });
    client.on('connect', () => {
      this.trouble = null;
      client.subscribe(topic, { qos: 0 }, (error, granted) => {
        // A broker says no with a grant of 128 or more.
        const refused = error?.message ?? (granted?.some((g) => g.qos >= 128) ? 'it may not be read' : null);
        if (refused !== null) this.fail(wireRefusal(this.where, 'address', `${topic}: ${refused}`));
      });
    });
    client.on('error', (error) => {
      this.trouble = wireRefusal(this.where, stageOf(error, 'connect'), error.message || 'no connection');
      this.fail(this.trouble);
    });
    client.on('message', (_, payload) => {
      if (payload.length > MOST_BYTES) {
        this.fail(wireRefusal(this.where, 'read', `a message has more than ${MOST_BYTES / 1024} KiB`));
        return;
      }
      const text = payload.toString('utf8');
      if (this.waiting) this.waiting.resolve(text);
      else this.unread = text;
    });
    return client;
  }

  /** The newest message that nobody has read yet, or the next one, for as long as the channel may be silent. */
  private next(): Promise<string> {
    const { unread } = this;
    this.unread = null;
    if (unread !== null) return Promise.resolve(unread);
    return new Promise<string>((resolve, reject) => {
      const limit = 1000 * Math.min(this.config.staleSeconds, 15);
      const late = setTimeout(() => {
        const what = this.client?.connected ? `no message on ${this.config.topic} for ${limit / 1000} s` : 'no answer';
        this.fail(
          this.trouble ?? wireRefusal(this.where, 'time out', what, 'Check the topic, and that the device publishes.'),
        );
      }, limit);
      const done = () => {
        clearTimeout(late);
        this.waiting = null;
      };
      this.waiting = {
        resolve: (text) => {
          done();
          resolve(text);
        },
        reject: (error) => {
          done();
          reject(error);
        },
      };
    });
  }

  private fail(error: Error): void {
    this.waiting?.reject(error);
  }

  private readingOf(document: unknown): WireReading {
    const { config, where } = this;
    const raw: { what: string; value: string }[] = [];
    const find = config.format === 'senml' ? this.fromSenml(document) : this.fromJson(document);
    const number = (what: string, path: string) => {
      const { value, shown } = find(path);
      raw.push({ what: `${what}, ${path || 'the whole message'}`, value: shown });
      if (value === null) throw wireRefusal(where, 'decode', `${path || 'the message'} is ${shown}, no figure`);
      return value;
    };
    const signal = number('signal', config.pointer);
    const degrees = config.temperaturePointer == null ? null : number('temperature', config.temperaturePointer);
    const own = degrees !== null && config.temperatureUnit === '°F' ? celsius(degrees) : degrees;
    return {
      signal: millivoltsOf(where, signal, config),
      temperatureC: celsiusOf(where, own ?? config.fixedC ?? 25),
      clockSeconds: null,
      raw,
    };
  }

  private fromJson(document: unknown) {
    return (path: string) => {
      const found = pointedAt(document, path);
      if (!found.ok) throw wireRefusal(this.where, 'address', found.message.replace(/\.$/, ''));
      return { value: figureOf(found.value), shown: JSON.stringify(found.value)?.slice(0, 60) ?? 'nothing' };
    };
  }

  private fromSenml(document: unknown) {
    const pack = decodeSenml(document);
    if (!pack.ok) throw wireRefusal(this.where, 'decode', pack.message.replace(/\.$/, ''));
    return (name: string) => {
      // The last record of a name is the newest in the pack.
      const record = pack.records.findLast((r) => r.name === name);
      if (record) return { value: record.value, shown: `${record.value} ${record.unit}`.trim() };
      const there = [...new Set(pack.records.map((r) => r.name))].slice(0, 6).join(', ') || 'no readings';
      throw wireRefusal(this.where, 'address', `the pack has no “${name}”; it has ${there}`);
    };
  }
}

import type { MqttClient } from 'mqtt';
import type { MqttConfig } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { decodeSenml } from '@frustum/formats';
import { MAX_BYTES, mqttClient } from './mqtt-client.ts';
import { listenTo } from './mqtt-listen.ts';
import { isBuffered } from '../filing.ts';
import type { Reach } from '../reach.ts';
import { jsonFinder, readingOf, stageOf, wireRefusal, type Place, type Wire, type WireReading } from './wire.ts';
import { pauseAsSetUp, type WireReader } from './wire-reader.ts';
import type { LogIns } from '../../config/log-ins.ts';

/** A message that nobody has read for longer is no fresh one: channels that nobody watches are asked every few seconds. */
const UNREAD_MS = 15_000;
/** A device that was away for a day sends no more at once. */
const MAX_UNREAD = 2000;

/** Units as RFC 8428 registers them. What is longer may be somebody’s text, and is not repeated. */
const PLAIN_UNIT = /^[\w/%°µ·*^()-]{0,12}$/;

interface Waiting {
  readonly resolve: (texts: readonly string[]) => void;
  readonly reject: (error: Error) => void;
}

/**
 * A device that publishes: subscribes once, and a reading is the next message, or one that came since the last reading. What
 * the broker has kept of the topic is as old as nobody knows: it is told as the last known, and never read.
 */
class MqttWire implements Wire {
  private readonly config: MqttConfig;
  private readonly logIns: LogIns;
  private readonly reach: Reach;
  private readonly where: string;
  private client: MqttClient | null = null;
  /** messages not read yet: all of them for a buffered channel, only the newest for the others */
  private unread: { readonly text: string; readonly atMs: number }[] = [];
  /** what the broker had kept when the topic was subscribed */
  private kept: string | null = null;
  private trouble: Error | null = null;
  private waiting: Waiting | null = null;

  constructor(config: MqttConfig, logIns: LogIns, reach: Reach) {
    this.config = config;
    this.logIns = logIns;
    this.reach = reach;
    this.where = `${config.host}:${config.port}`;
  }

  async read(): Promise<WireReading> {
    this.client ??= this.open();
    const texts = await this.next();
    const readings = texts.flatMap((text, i) => {
      try {
        return this.readingsIn(text);
      } catch (error) {
        // One that cannot be read does not take along what came before it; the newest says what is wrong.
        if (i === texts.length - 1) throw error;
        return [];
      }
    });
    const newest = readings.at(-1)!;
    return readings.length > 1 ? { ...newest, earlier: readings.slice(0, -1) } : newest;
  }

  /** The readings of a message, oldest first: one, or all that a buffered pack brings along. */
  private readingsIn(text: string): WireReading[] {
    let document: unknown;
    try {
      document = JSON.parse(text);
    } catch {
      throw wireRefusal(
        this.where,
        'decode',
        `${this.config.topic} carries no JSON but ${text.length} characters of something else`,
      );
    }
    if (this.config.format === 'senml') return this.fromSenml(document);
    return [readingOf(this.where, this.config, jsonFinder(this.where, document))];
  }

  survey(shows: number | null): Promise<readonly Place[]> {
    return listenTo(this.config, this.where, this.logIns, this.reach, shows);
  }

  close(): void {
    this.client?.end(true);
    this.client = null;
    this.fail(wireRefusal(this.where, 'read', 'the channel was closed'));
  }

  private open(): MqttClient {
    const { topic } = this.config;
    const tooLong = (length: number) => {
      const what = Number.isFinite(length)
        ? `a message of more than ${MAX_BYTES / 1024} KiB`
        : 'a packet without a length';
      this.trouble = wireRefusal(this.where, 'read', `${what} is not taken`);
      this.fail(this.trouble);
    };
    const client = mqttClient(this.config, this.where, this.logIns, this.reach, tooLong);
    client.on('connect', () => {
      [this.trouble, this.kept] = [null, null];
      client.subscribe(topic, { qos: 0 }, (error, granted) => {
        // A broker says no with a grant of 128 or more.
        const refused = error?.message ?? (granted?.some((g) => g.qos >= 128) ? 'it may not be read' : null);
        if (refused !== null) this.fail(wireRefusal(this.where, 'address', `${topic}: ${refused}`));
      });
    });
    client.on('error', (error) => {
      this.trouble =
        error instanceof Refusal
          ? error
          : wireRefusal(this.where, stageOf(error, 'connect'), error.message || 'no connection');
      this.fail(this.trouble);
    });
    client.on('message', (from, payload, { retain }) => {
      // A broker may send what nobody asked for.
      if (from !== topic) return;
      const text = payload.toString('utf8');
      if (retain) this.kept = text;
      else if (this.waiting) this.waiting.resolve([text]);
      else {
        if (!isBuffered(this.config)) this.unread = [];
        if (this.unread.length < MAX_UNREAD) this.unread.push({ text, atMs: performance.now() });
      }
    });
    return client;
  }

  /** The newest message that nobody has read yet, or the next one, for as long as the channel may be silent. */
  private next(): Promise<readonly string[]> {
    const since = isBuffered(this.config) ? -Infinity : performance.now() - UNREAD_MS;
    const unread = this.unread.filter((u) => u.atMs > since).map((u) => u.text);
    this.unread = [];
    if (unread.length) return Promise.resolve(unread);
    return new Promise<readonly string[]>((resolve, reject) => {
      const limit = 1000 * Math.min(this.config.staleSeconds, 15);
      const late = setTimeout(() => {
        const what = this.client?.connected
          ? `no message on ${this.config.topic} for ${limit / 1000} s${this.lastKnown()}`
          : 'no answer';
        this.fail(
          this.trouble ?? wireRefusal(this.where, 'time out', what, 'Check the topic, and that the device publishes.'),
        );
      }, limit);
      const done = () => {
        clearTimeout(late);
        this.waiting = null;
      };
      this.waiting = {
        resolve: (texts) => {
          done();
          resolve(texts);
        },
        reject: (error) => {
          done();
          reject(error);
        },
      };
    });
  }

  private lastKnown(): string {
    if (this.kept === null) return '';
    try {
      const { signal, unit } = this.readingsIn(this.kept).at(-1)!;
      return `; the broker keeps ${Number(signal.toPrecision(6))} ${unit} as last known, age unknown`;
    } catch {
      return '; what the broker keeps is no reading';
    }
  }

  private fail(error: Error): void {
    this.waiting?.reject(error);
  }

  /** One reading for each time at which a buffered pack has the signal; the newest alone for another channel. */
  private fromSenml(document: unknown): WireReading[] {
    const { config, where } = this;
    const pack = decodeSenml(document);
    if (!pack.ok) throw wireRefusal(where, 'decode', pack.message.replace(/\.$/, ''));
    const { records } = pack;
    const signals = records.filter((r) => r.name === config.pointer);
    const times = isBuffered(config) ? [...new Set(signals.map((r) => r.atSeconds))].sort(byTime) : [null];
    return (times.length ? times : [null]).map((time) => {
      const find = (name: string) => {
        // The last record of a name is the newest in the pack; of those with a time, the newest up to it.
        const upTo = records.filter((r) => r.name === name && (time === null || byTime(r.atSeconds, time) <= 0));
        const record = upTo.sort((a, b) => byTime(a.atSeconds, b.atSeconds)).at(-1) ?? records.findLast((r) => r.name === name); // prettier-ignore
        const unit = record && PLAIN_UNIT.test(record.unit) ? record.unit : '';
        if (record) return { value: record.value, shown: `${record.value} ${unit}`.trim() };
        const there = [...new Set(records.map((r) => r.name))].slice(0, 6).join(', ') || 'no readings';
        throw wireRefusal(where, 'address', `the pack has no “${name}”; it has ${there}`);
      };
      return readingOf(where, config, find, time ?? signals.at(-1)?.atSeconds ?? null);
    });
  }
}

/** What has no time is the newest. */
const byTime = (a: number | null, b: number | null) => (a ?? Infinity) - (b ?? Infinity) || 0;

export const mqtt: WireReader<MqttConfig> = {
  open: (config, { logIns, reach }) => new MqttWire(config, logIns, reach),
  nameOf: ({ host, port }) => `${host}:${port}`,
  pauseMs: pauseAsSetUp,
};

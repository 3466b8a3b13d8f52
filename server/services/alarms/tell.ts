import { MESSAGE_WAYS, Refusal, USUAL_RULES, type MessageWay, type TravelRules } from '@frustum/core';
import type { AlarmsView, AlarmWaysView } from '@frustum/contract';
import { MQTT_PORT, portOf, rulesIn, tellingIn, type Telling } from '../../config/telling.ts';
import type { MessageRecord, NewMessage } from '../../store/commands/alarm-messages.ts';
import type { Store } from '../../store/commands/index.ts';
import type { AlarmMessage } from '../../store/schema/index.ts';
import { mailOut } from './mail.ts';
import { MqttLine, NotTaken, post } from './ways-out.ts';

const NAMES: Readonly<Record<MessageWay, string>> = { webhook: 'Webhook', mqtt: 'MQTT', mail: 'Mail' };
/** Ways that machines read: they are told of the server itself, too. */
const MACHINES: readonly MessageWay[] = ['webhook', 'mqtt'];

const SECOND_MS = 1000;
const MINUTE_MS = 60_000;
const HOUR_MS = 3_600_000;
/** Pauses before one more try, ms; the last one again and again. */
const PAUSES_MS = [2 * SECOND_MS, 10 * SECOND_MS, MINUTE_MS, 5 * MINUTE_MS, 15 * MINUTE_MS, HOUR_MS];
/** News of an alarm that is older than this is none any more, ms. */
const GIVE_UP_MS = 24 * HOUR_MS;
/** What was given up is shown for so long, ms. */
const SHOWN_MS = 14 * 24 * HOUR_MS;
const MAX_SHOWN = 20;
const AT_ONCE = 20;
const DEFAULT_HEARTBEAT_MINUTES = 15;

/** What the teller needs of the rest of the server. */
interface TellerParts {
  readonly store: Store;
  /** the data folder, with alarms.json */
  readonly folder: string;
  readonly now: () => number;
  readonly newId: () => string;
  readonly pausesMs?: readonly number[];
}

/**
 * Tells alarms to a webhook, an MQTT topic and by mail. What is to be told is queued in the database with what it tells of, each way
 * for itself and in order, so that no crash loses it; it is tried again with growing pauses for a day, and then given up and
 * shown. An alarm that was told just before a crash may be told twice: `id` and `event` together name it.
 */
export class Teller {
  private readonly parts: TellerParts;
  private readonly line = new MqttLine();
  private readonly timers = new Map<MessageWay | 'alive', NodeJS.Timeout>();
  private readonly underWay = new Map<MessageWay, Promise<void>>();
  /** ways that were asked for while they were told already */
  private readonly asked = new Set<MessageWay>();
  private readonly failures = new Map<MessageWay, number>();
  /** why the newest could not be told, by way */
  private readonly troubles = new Map<MessageWay, string>();
  private stopped = false;

  constructor(parts: TellerParts) {
    this.parts = parts;
  }

  /** Rows for the transaction that writes what is told: one for each of these ways. */
  queued(body: AlarmMessage, ways: readonly MessageWay[]): NewMessage[] {
    return ways.map((way) => ({ id: this.parts.newId(), way, body, at: body.at }));
  }

  /** Ways that the operator has named. A file that cannot be read names all: until it is mended, everything waits for every way. */
  named(): readonly MessageWay[] {
    const telling = this.telling();
    return telling === null ? MESSAGE_WAYS : MESSAGE_WAYS.filter((way) => telling[way] !== undefined);
  }

  /** When each way is taken. */
  rules(): TravelRules {
    const telling = this.telling();
    return telling === null ? USUAL_RULES : rulesIn(telling);
  }

  /** Where alarms go, as the operator has written it. No password is among it. */
  waysView(): AlarmWaysView {
    try {
      const telling = tellingIn(this.parts.folder);
      return { asked: telling, rules: rulesIn(telling), trouble: null };
    } catch (error) {
      return { asked: null, rules: USUAL_RULES, trouble: `alarms.json: ${messageOf(error)}` };
    }
  }

  /** One message by a way, now. @throws Refusal `not-told` with what the other side says */
  async test(way: MessageWay): Promise<void> {
    const refused = (why: string) => new Refusal('not-told', `${NAMES[way]}: ${why}.`, { way });
    if (this.telling() !== null && !this.named().includes(way))
      throw refused('nobody has said where to. Fill it in and keep it first');
    try {
      await this.send(way, this.own('test', 'This is a test from Frustum. Nothing has happened.'));
      this.troubles.delete(way);
    } catch (error) {
      throw refused(messageOf(error));
    }
  }

  /** Something waits: tell it, if nobody is at it. */
  wake(): void {
    for (const way of MESSAGE_WAYS) void this.pump(way);
  }

  /** Resolves when everything that can be told now has been. */
  async settled(): Promise<void> {
    await Promise.all(MESSAGE_WAYS.map((way) => this.pump(way)));
  }

  /**
   * Says that the server is here again, and since when it was not; then a heartbeat, so that silence is noticed.
   *
   * @param lastAliveMs when it was last known to run, epoch ms; null for the first start
   */
  async start(lastAliveMs: number | null): Promise<void> {
    const { store, now } = this.parts;
    const at = now();
    const { waiting } = await store.readUntold(0);
    const since =
      lastAliveMs === null
        ? 'Frustum runs for the first time.'
        : `Frustum runs again. From ${minuteOf(lastAliveMs)} to ${minuteOf(at)} it did not, and nothing was watched.`;
    const waited = waiting ? ` ${waiting} ${waiting === 1 ? 'message' : 'messages'} of before waited to be told.` : '';
    const started = this.own('started', since + waited);
    await store.queueMessages(
      this.queued(
        started,
        this.named().filter((way) => MACHINES.includes(way)),
      ),
    );
    await store.forgetGivenUp(new Date(at - SHOWN_MS).toISOString());
    this.wake();
    this.beatLater();
  }

  /** Takes leave. */
  async stop(): Promise<void> {
    this.stopped = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
    this.timers.clear();
    await Promise.all(MACHINES.map((way) => this.send(way, this.own('stopped', 'Frustum was stopped by somebody.')).catch(() => {}))); // prettier-ignore
    await this.line.close();
  }

  /** Where alarms go, in words, what waits there, and what is wrong. */
  async where(): Promise<AlarmsView['told']> {
    const { waiting, givenUp } = await this.parts.store.readUntold(MAX_SHOWN);
    const untold = {
      waiting,
      givenUp: givenUp.map(({ way, body, trouble, givenUpAt }) => ({
        way: NAMES[way],
        text: body.text,
        at: givenUpAt!,
        trouble,
      })),
    };
    try {
      const { webhook, mqtt, mail } = tellingIn(this.parts.folder);
      return {
        webhook: webhook ? new URL(webhook).host : null,
        mqtt: mqtt ? `${mqtt.topic} at ${mqtt.host}:${mqtt.port ?? MQTT_PORT}` : null,
        mail: mail ? `${mail.to.join(', ')} by ${mail.host}:${portOf(mail)}` : null,
        trouble: MESSAGE_WAYS.flatMap((way) => (this.troubles.has(way) ? [`${NAMES[way]}: ${this.troubles.get(way)}.`] : [])).join(' ') || null, // prettier-ignore
        ...untold,
      };
    } catch (error) {
      return { webhook: null, mqtt: null, mail: null, trouble: `alarms.json: ${messageOf(error)}`, ...untold };
    }
  }

  /** One heartbeat to every way, so that the receiver notices when the server falls silent. */
  async beat(): Promise<void> {
    const { waiting } = await this.parts.store.readUntold(0);
    const text = waiting ? `Frustum runs; ${waiting} messages wait to be told.` : 'Frustum runs.';
    await Promise.all(
      MACHINES.map(async (way) => {
        try {
          await this.send(way, this.own('alive', text));
          if (!this.failures.has(way)) this.troubles.delete(way);
        } catch (error) {
          this.troubles.set(way, messageOf(error));
        }
      }),
    );
  }

  private beatLater(): void {
    if (this.stopped) return;
    const minutes = this.telling()?.heartbeatMinutes ?? DEFAULT_HEARTBEAT_MINUTES;
    const timer = setTimeout(() => void this.beat().catch(() => undefined).finally(() => this.beatLater()), minutes * MINUTE_MS); // prettier-ignore
    timer.unref();
    this.timers.set('alive', timer);
  }

  /** Each way has one pump at a time; a second call waits for the first, and makes it look at the queue again. */
  private pump(way: MessageWay): Promise<void> {
    const going = this.underWay.get(way);
    if (going) {
      this.asked.add(way);
      return going;
    }
    if (this.stopped) return Promise.resolve();
    clearTimeout(this.timers.get(way));
    const mine = this.tellAll(way);
    this.underWay.set(way, mine);
    return mine;
  }

  private async tellAll(way: MessageWay): Promise<void> {
    try {
      for (;;) {
        this.asked.delete(way);
        const waiting = await this.parts.store.readWaitingMessages(way, AT_ONCE);
        if (!waiting.length && !this.asked.has(way)) return;
        for (const message of waiting) if (!(await this.tellOne(way, message))) return;
      }
    } catch {
      // The database is busy or going down: what waits is still there.
      this.again(way);
    } finally {
      this.underWay.delete(way);
    }
  }

  /** @returns false when the way has to rest before it is tried again */
  private async tellOne(way: MessageWay, { id, at, body }: MessageRecord): Promise<boolean> {
    const { store, now } = this.parts;
    try {
      await this.send(way, body);
    } catch (error) {
      if (this.stopped) return false;
      const trouble = messageOf(error);
      const over = error instanceof NotTaken || now() - Date.parse(at) > GIVE_UP_MS;
      this.troubles.set(way, trouble);
      await store.noteUntold(id, trouble, over ? new Date(now()).toISOString() : null);
      if (!over) this.again(way);
      return over;
    }
    this.failures.delete(way);
    this.troubles.delete(way);
    await store.dropMessages([id]);
    return true;
  }

  /** Once more, later: longer each time. */
  private again(way: MessageWay): void {
    if (this.stopped) return;
    const pauses = this.parts.pausesMs ?? PAUSES_MS;
    const count = this.failures.get(way) ?? 0;
    this.failures.set(way, count + 1);
    clearTimeout(this.timers.get(way));
    const timer = setTimeout(() => void this.pump(way), pauses[Math.min(count, pauses.length - 1)]);
    timer.unref();
    this.timers.set(way, timer);
  }

  /** Sends it by a way; nothing to do where the operator names that way no more. @throws Error that says why not */
  private async send(way: MessageWay, message: AlarmMessage): Promise<void> {
    const { folder } = this.parts;
    const { webhook, mqtt, mail } = tellingIn(folder);
    if (way === 'mail' && mail) await mailOut(mail, folder, message);
    if (way === 'webhook' && webhook) await post(webhook, message);
    if (way === 'mqtt' && mqtt) {
      const gone = this.own('gone', 'Frustum has gone without a word. Look at its computer.');
      await this.line.publish(mqtt, folder, gone, message);
    }
  }

  private own(event: AlarmMessage['event'], text: string): AlarmMessage {
    const { now, newId } = this.parts;
    return { event, at: new Date(now()).toISOString(), id: newId(), kind: 'frustum', text, by: '' };
  }

  /** null when alarms.json cannot be read. */
  private telling(): Telling | null {
    try {
      return tellingIn(this.parts.folder);
    } catch {
      return null;
    }
  }
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : String(error));
const minuteOf = (ms: number) => `${new Date(ms).toISOString().slice(0, 16).replace('T', ' ')} UTC`;

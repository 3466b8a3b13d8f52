import {
  epochText,
  staleSecondsOf,
  type ChannelConfig,
  type ChannelTest,
  type EpochCause,
  type SurveyView,
} from '@frustum/contract';
import { Refusal, type Coefficients } from '@frustum/core';
import { WATCHED_MS } from '../config/config.ts';
import { filingOf, isBuffered } from './filing.ts';
import { HeldChannels } from './held-channels.ts';
import type { LiveHub } from './live-hub.ts';
import { ModbusConnections } from './wires/modbus-connections.ts';
import { readerOf } from './wires/readers.ts';
import { PRIVATE_ONLY, type Reach } from './reach.ts';
import { TraceClock } from './trace-clock.ts';
import { surveyChannel, tryChannel } from './try-channel.ts';
import type { Ways, WireReader } from './wires/wire-reader.ts';
import { wireRefusal, type Wire, type WireReading } from './wires/wire.ts';
import type { LogIns } from '../config/log-ins.ts';

/** Pace of anything after a failure, ms. */
const RETRY_MS = 1000;
/** Moments of buffered readings that are remembered for each channel: a week of minutes. */
const MAX_FILED = 10_000;

interface Polled {
  readonly channelId: string;
  readonly config: ChannelConfig;
  readonly reader: WireReader<ChannelConfig>;
  readonly wire: Wire;
  timer: NodeJS.Timeout | null;
  /** when its sensor was fitted, epoch ms */
  readonly fittedMs: number;
  /** moments of buffered readings that are kept already, epoch ms: a device sends again what nobody acknowledged */
  readonly filed: Set<number>;
  /** buffered readings whose time cannot be */
  aside: { count: number; readonly words: string } | null;
  readonly clock: TraceClock;
}

/** Reads every wired channel, each at its own pace, and tells the hub. A silent device slows down nobody else. */
export class Poller {
  private readonly hub: LiveHub;
  /** seconds that never run back: the trace's time for devices without a clock */
  private readonly seconds: () => number;
  private readonly watchedMs: number;
  private readonly now: () => number;
  /** when this life of the server began: the first epoch of every channel */
  private readonly begunMs: number;
  private readonly ways: Ways;
  private readonly polled = new Map<string, Polled>();
  /** channels that wait for somebody's word before they are read */
  private readonly heldBack = new HeldChannels();
  private stopped = false;

  constructor(
    hub: LiveHub,
    options: {
      readonly seconds?: () => number;
      readonly now?: () => number;
      readonly logIns?: LogIns;
      readonly reach?: Reach;
      readonly watchedMs?: number;
    } = {},
  ) {
    this.hub = hub;
    this.seconds = options.seconds ?? (() => performance.now() / 1000);
    const reach = options.reach ?? PRIVATE_ONLY;
    this.ways = { logIns: options.logIns ?? (() => null), reach, connections: new ModbusConnections(reach) };
    this.watchedMs = options.watchedMs ?? WATCHED_MS;
    this.now = options.now ?? Date.now;
    this.begunMs = this.now();
  }

  /** @param fittedOn the day on which its sensor was fitted, ISO 8601; null when nobody knows */
  add(channelId: string, config: ChannelConfig, fittedOn: string | null = null): void {
    if (!this.polled.has(channelId))
      this.begin(channelId, config, fittedOn, epochText({ because: 'server-started', atMs: this.begunMs }));
  }

  /** Not to be read before somebody says so: reading one of these may have ended the server twice. */
  holdBack(channelId: string, config: ChannelConfig, fittedOn: string | null = null): void {
    if (!readerOf(config) || config.off) return this.add(channelId, config);
    const message = this.heldBack.hold(channelId, config, fittedOn);
    // Stale, not off: a channel that should speak and does not is told by an alarm, also while no page is open.
    this.hub.publish({ event: 'state', data: { channelId, state: 'stale', message } });
  }

  /** Ids of the channels that wait for somebody's word. */
  get held(): readonly string[] {
    return this.heldBack.ids;
  }

  /** Reads a channel that was held back. */
  release(channelId: string): void {
    const held = this.heldBack.take(channelId);
    if (held) this.add(channelId, held.config, held.fittedOn);
  }

  private begin(channelId: string, config: ChannelConfig, fittedOn: string | null, epoch: string): void {
    const reader = readerOf(config);
    if (!reader || config.off) {
      const message = reader ? 'Switched off in its set-up.' : '';
      this.hub.publish({ event: 'state', data: { channelId, state: 'off', message } });
      return;
    }
    const clock = new TraceClock(epoch, staleSecondsOf(config) ?? Infinity, this.seconds, this.now);
    const polled: Polled = {
      channelId,
      config,
      reader,
      wire: reader.open(config, this.ways),
      timer: null,
      fittedMs: fittedOn === null ? -Infinity : Date.parse(fittedOn),
      filed: new Set(),
      aside: null,
      clock,
    };
    this.polled.set(channelId, polled);
    void this.poll(polled);
  }

  /** Reads another channel from now on, and begins a new trace. */
  replace(channelId: string, config: ChannelConfig, fittedOn: string | null = null): void {
    this.heldBack.take(channelId);
    const old = this.polled.get(channelId);
    if (old) {
      if (old.timer) clearTimeout(old.timer);
      old.wire.close();
      this.polled.delete(channelId);
    }
    this.begin(channelId, config, fittedOn, this.epochNow('set-up-changed'));
  }

  /** Reads a channel no more: its loop is archived. */
  remove(channelId: string): void {
    this.heldBack.take(channelId);
    const old = this.polled.get(channelId);
    if (!old) return;
    if (old.timer) clearTimeout(old.timer);
    old.wire.close();
    this.polled.delete(channelId);
    this.hub.publish({ event: 'state', data: { channelId, state: 'off', message: '' } });
  }

  /** Every wire is let go and opened anew: something in one of them went wrong where nobody could catch it. */
  restart(): void {
    for (const { timer, wire } of this.polled.values()) {
      if (timer) clearTimeout(timer);
      wire.close();
    }
    this.ways.connections.close();
    for (const old of [...this.polled.values()]) {
      const anew: Polled = { ...old, wire: old.reader.open(old.config, this.ways), timer: null };
      this.polled.set(old.channelId, anew);
      void this.poll(anew);
    }
  }

  /** Somebody has begun to look: do not wait for the idle pace to come round. */
  hurry(channelId: string): void {
    const polled = this.polled.get(channelId);
    if (!polled?.timer) return;
    clearTimeout(polled.timer);
    polled.timer = null;
    void this.poll(polled);
  }

  /** @throws Refusal `channel-unknown`, `device-unreachable` */
  async writeCoefficients(channelId: string, coefficients: Coefficients): Promise<Coefficients> {
    const wire = this.polled.get(channelId)?.wire;
    if (wire?.writeCoefficients) return wire.writeCoefficients(coefficients);
    throw new Refusal('channel-unknown', 'This channel cannot be written. Enter the figures at the controller.');
  }

  /** Reads a channel once, on a wire of its own, and says how far it came. Never throws. */
  test(config: ChannelConfig): Promise<ChannelTest> {
    return tryChannel(config, this.ways, this.seconds);
  }

  /** Looks what a device has to offer. Never throws. */
  survey(config: ChannelConfig, shows: number | null): Promise<SurveyView> {
    return surveyChannel(config, this.ways, shows);
  }

  stop(): void {
    this.stopped = true;
    for (const p of this.polled.values()) {
      if (p.timer) clearTimeout(p.timer);
      p.wire.close();
    }
    this.ways.connections.close();
  }

  private isCurrent(polled: Polled): boolean {
    return !this.stopped && this.polled.get(polled.channelId) === polled;
  }

  private async poll(polled: Polled): Promise<void> {
    let pause = polled.reader.pauseMs(polled.config, this.hub.isWatched(polled.channelId) ? this.watchedMs : null);
    try {
      const askedAt = this.seconds();
      const reading = await polled.wire.read();
      if (this.isCurrent(polled)) this.hear(polled, reading, askedAt);
    } catch (error) {
      pause = Math.max(RETRY_MS, pause);
      if (this.isCurrent(polled)) this.tellTrouble(polled, error);
    }
    if (this.isCurrent(polled)) polled.timer = setTimeout(() => void this.poll(polled), pause);
  }

  private hear(polled: Polled, reading: WireReading, askedAt: number): void {
    // Of several that are fresh the newest says what there is now.
    const now = [...(reading.earlier ?? []), reading].filter((r) => this.file(polled, r)).at(-1);
    if (now) this.take(polled, now, askedAt);
    else this.tellOld(polled);
  }

  /** Keeps a reading under its moment. @returns whether it says what there is now */
  private file(polled: Polled, { clockSeconds, signal, unit, temperatureC }: WireReading): boolean {
    const { channelId, config, fittedMs, filed } = polled;
    const staleMs = 1000 * (staleSecondsOf(config) ?? 0);
    const filing = filingOf(clockSeconds, this.now(), { buffered: isBuffered(config), staleMs, fittedMs });
    if (filing.as === 'live') return true;
    if (filing.as === 'aside') {
      const at = new Date(filing.atMs).toISOString().slice(0, 16).replace('T', ' ');
      polled.aside = { count: (polled.aside?.count ?? 0) + 1, words: `the last one of ${at} UTC, ${filing.because}` };
      return false;
    }
    if (filed.has(filing.atMs)) return false;
    filed.add(filing.atMs);
    if (filed.size > MAX_FILED) filed.delete(filed.values().next().value!);
    this.hub.file({ channelId, atMs: filing.atMs, signal, unit, temperatureC });
    return false;
  }

  /** What came is from before, or cannot be: the channel says so once it is silent for longer than it may be. */
  private tellOld(polled: Polled): void {
    const name = polled.reader.nameOf(polled.config);
    const newest = Math.max(...polled.filed);
    const what = Number.isFinite(newest)
      ? `its newest reading is from ${new Date(newest).toISOString().slice(0, 16).replace('T', ' ')} UTC`
      : 'it has sent nothing that can be kept';
    this.tellTrouble(polled, wireRefusal(name, 'time out', `${what}${asideWords(polled)}`, 'Check that it measures.'));
  }

  private take(polled: Polled, reading: WireReading, askedAt: number): void {
    const { channelId } = polled;
    const placed = polled.clock.place(reading.clockSeconds, askedAt);
    if (placed.as === 'frozen') {
      const words = `its clock has stood still for ${Math.round(placed.stillSeconds)} s, and its figures with it`;
      throw wireRefusal(polled.reader.nameOf(polled.config), 'status', words);
    }
    if (placed.as === 'same') return;
    const { t, epoch } = placed;
    const { signal, unit, temperatureC, impedance } = reading;
    const data = { channelId, t, epoch, signal, unit, temperatureC, ...(impedance ? { impedance } : {}) };
    // First the sample: a screen that hears “live” must not take what it has from before for the newest.
    this.hub.publish({ event: 'sample', data });
    const message = asideWords(polled).replace(/^; (.*)$/, 'It is live. Set aside: $1.');
    this.hub.publish({ event: 'state', data: { channelId, state: 'live', message } });
  }

  /** A device that says it does not measure is at fault at once; one that is silent is stale once its limit has passed. */
  private tellTrouble(polled: Polled, error: unknown): void {
    const { channelId, config, reader, clock } = polled;
    const fault = error instanceof Refusal && error.code === 'device-fault';
    const mayBeSilent = !reader.tellsSilenceAtOnce && clock.silentSeconds < (staleSecondsOf(config) ?? Infinity);
    if (!fault && !clock.isFresh && mayBeSilent) return;
    const message = error instanceof Refusal ? error.message : 'The device does not answer. Check plug and address.';
    this.hub.publish({ event: 'state', data: { channelId, state: fault ? 'fault' : 'stale', message } });
  }

  private epochNow(because: EpochCause): string {
    return epochText({ because, atMs: this.now() });
  }
}

/** What was set aside, as the end of a sentence; '' for nothing. */
const asideWords = ({ aside }: Polled) =>
  aside ? `; ${aside.count} ${aside.count === 1 ? 'reading' : 'readings'}, ${aside.words}` : '';

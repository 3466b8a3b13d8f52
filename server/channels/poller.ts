import { epochText, staleSecondsOf, type ChannelConfig, type ChannelTest, type EpochCause } from '@frustum/contract';
import { Refusal, type Coefficients } from '@frustum/core';
import { WATCHED_MS } from '../config/config.ts';
import { HttpJsonWire } from './http-json-wire.ts';
import type { LiveHub } from './live-hub.ts';
import { ModbusConnection } from './modbus-client.ts';
import { HouseMapWire, MappedWire } from './modbus-wires.ts';
import { MqttWire } from './mqtt-wire.ts';
import { PRIVATE_ONLY, type Reach } from './reach.ts';
import { wireRefusal, withMinus, type LogIns, type Wire, type WireReading } from './wire.ts';

/** Pace of Frustum's own map while no screen shows the channel, and of anything after a failure, ms. */
const IDLE_MS = 2000;
const RETRY_MS = 1000;
/** A stand-in's clock may run this much faster than life; beyond it, and some slack, a clock has jumped. */
const FASTEST_CLOCK = 40;
const CLOCK_SLACK_S = 10;
/** A device that shows one and the same moment for so long has frozen, s. */
const FROZEN_S = 15;

interface Polled {
  readonly channelId: string;
  readonly config: Exclude<ChannelConfig, { kind: 'hand' }>;
  readonly wire: Wire;
  timer: NodeJS.Timeout | null;
  /** the time in which its clock has gone on without a break, as samples carry it */
  epoch: string;
  lastT: number;
  /** when its time last moved on, by the clock below, s */
  newAt: number;
  /** when a reading last came, on the clock below, s */
  heardAt: number;
  /** and when it was asked for */
  askedAt: number;
}

/** Reads every wired channel, each at its own pace, and tells the hub. A silent device slows down nobody else. */
export class Poller {
  private readonly hub: LiveHub;
  /** seconds that never run back: the trace's time for devices without a clock */
  private readonly seconds: () => number;
  private readonly logIns: LogIns;
  private readonly reach: Reach;
  private readonly watchedMs: number;
  private readonly now: () => number;
  /** when this life of the server began: the first epoch of every channel */
  private readonly begunMs: number;
  private readonly connections = new Map<string, ModbusConnection>();
  private readonly polled = new Map<string, Polled>();
  /** channels that wait for somebody's word before they are read */
  private readonly heldBack = new Map<string, ChannelConfig>();
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
    this.logIns = options.logIns ?? (() => null);
    this.reach = options.reach ?? PRIVATE_ONLY;
    this.watchedMs = options.watchedMs ?? WATCHED_MS;
    this.now = options.now ?? Date.now;
    this.begunMs = this.now();
  }

  add(channelId: string, config: ChannelConfig): void {
    if (!this.polled.has(channelId))
      this.begin(channelId, config, epochText({ because: 'server-started', atMs: this.begunMs }));
  }

  /** Not to be read before somebody says so: reading one of these may have ended the server twice. */
  holdBack(channelId: string, config: ChannelConfig): void {
    if (config.kind === 'hand' || config.off) return this.add(channelId, config);
    this.heldBack.set(channelId, config);
    const message =
      'Not read since the start, because the two starts before died soon. Read it again when you are ready.';
    // Stale, not off: a channel that should speak and does not is told by an alarm, also where nobody looks at a page.
    this.hub.publish({ event: 'state', data: { channelId, state: 'stale', message } });
  }

  /** Ids of the channels that wait for somebody's word. */
  get held(): readonly string[] {
    return [...this.heldBack.keys()];
  }

  /** Reads a channel that was held back. */
  release(channelId: string): void {
    const config = this.heldBack.get(channelId);
    if (!config || !this.heldBack.delete(channelId)) return;
    this.add(channelId, config);
  }

  private begin(channelId: string, config: ChannelConfig, epoch: string): void {
    if (config.kind === 'hand' || config.off) {
      const message = config.kind === 'hand' ? '' : 'Switched off in its set-up.';
      this.hub.publish({ event: 'state', data: { channelId, state: 'off', message } });
      return;
    }
    const wire = this.wireTo(config);
    const heardAt = this.seconds();
    const polled: Polled = {
      channelId,
      config,
      wire,
      timer: null,
      epoch,
      lastT: -Infinity,
      newAt: heardAt,
      heardAt,
      askedAt: heardAt,
    };
    this.polled.set(channelId, polled);
    void this.poll(polled);
  }

  /** Reads another channel from now on, and begins a new trace. */
  replace(channelId: string, config: ChannelConfig): void {
    this.heldBack.delete(channelId);
    const old = this.polled.get(channelId);
    if (old) {
      if (old.timer) clearTimeout(old.timer);
      old.wire.close();
      this.polled.delete(channelId);
    }
    this.begin(channelId, config, this.epochNow('set-up-changed'));
  }

  /** Every wire is let go and opened anew: something in one of them went wrong where nobody could catch it. */
  restart(): void {
    for (const { timer, wire } of this.polled.values()) {
      if (timer) clearTimeout(timer);
      wire.close();
    }
    for (const connection of this.connections.values()) connection.close();
    this.connections.clear();
    for (const old of [...this.polled.values()]) {
      const anew: Polled = { ...old, wire: this.wireTo(old.config), timer: null };
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
  async test(config: ChannelConfig): Promise<ChannelTest> {
    if (config.kind === 'hand') {
      return {
        ok: true,
        stage: 'done',
        message: 'Typed by hand: nothing to connect.',
        milliseconds: 0,
        raw: [],
        reading: null,
      };
    }
    const begun = this.seconds();
    const modbus = config.kind === 'modbus' || config.kind === 'modbus-map';
    const own = modbus ? new ModbusConnection(config.host, config.port, config.unitId, this.reach) : null;
    const wire = this.wireTo(config, own);
    const milliseconds = () => Math.round(1000 * (this.seconds() - begun));
    try {
      const { raw, signal, unit, temperatureC, impedance = null } = await wire.read();
      const message = withMinus(`It answers: ${figure(signal, unit)} ${unit} at ${temperatureC.toFixed(1)} °C.`);
      return {
        ok: true,
        stage: 'done',
        message,
        milliseconds: milliseconds(),
        raw,
        reading: { signal, unit, temperatureC, impedance },
      };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const stage = String(error.facts['stage'] ?? 'read');
      return { ok: false, stage, message: error.message, milliseconds: milliseconds(), raw: [], reading: null };
    } finally {
      wire.close();
      own?.close();
    }
  }

  stop(): void {
    this.stopped = true;
    for (const p of this.polled.values()) {
      if (p.timer) clearTimeout(p.timer);
      p.wire.close();
    }
    for (const c of this.connections.values()) c.close();
  }

  private wireTo(config: Polled['config'], own: ModbusConnection | null = null): Wire {
    if (config.kind === 'http-json') return new HttpJsonWire(config, this.logIns, this.reach);
    if (config.kind === 'mqtt') return new MqttWire(config, this.logIns, this.reach);
    const connection = own ?? this.connection(config);
    return config.kind === 'modbus' ? new HouseMapWire(connection, config) : new MappedWire(connection, config);
  }

  /** One connection a device and unit: the probes behind it take turns. */
  private connection({ host, port, unitId }: { host: string; port: number; unitId: number }): ModbusConnection {
    const key = `${host}:${port}/${unitId}`;
    const known = this.connections.get(key) ?? new ModbusConnection(host, port, unitId, this.reach);
    this.connections.set(key, known);
    return known;
  }

  private isCurrent(polled: Polled): boolean {
    return !this.stopped && this.polled.get(polled.channelId) === polled;
  }

  private async poll(polled: Polled): Promise<void> {
    let pause = this.paceOf(polled);
    try {
      const askedAt = this.seconds();
      const reading = await polled.wire.read();
      if (this.isCurrent(polled)) this.take(polled, reading, askedAt);
    } catch (error) {
      pause = Math.max(RETRY_MS, pause);
      if (this.isCurrent(polled)) this.tellTrouble(polled, error);
    }
    if (this.isCurrent(polled)) polled.timer = setTimeout(() => void this.poll(polled), pause);
  }

  private paceOf({ channelId, config }: Polled): number {
    const watched = this.hub.isWatched(channelId);
    if (config.kind === 'modbus') return watched ? this.watchedMs : IDLE_MS;
    return watched ? 1000 * config.pollSeconds : Math.max(IDLE_MS, 1000 * config.pollSeconds);
  }

  private take(polled: Polled, reading: WireReading, askedAt: number): void {
    const { channelId } = polled;
    const most = FASTEST_CLOCK * (this.seconds() - polled.askedAt) + CLOCK_SLACK_S;
    // A device without a clock says nothing of where it was meanwhile: it may have been off, or plugged in elsewhere.
    const lost =
      reading.clockSeconds === null && this.seconds() - polled.heardAt > (staleSecondsOf(polled.config) ?? Infinity);
    polled.heardAt = this.seconds();
    polled.askedAt = askedAt;
    const t = Math.round(10 * (reading.clockSeconds ?? polled.heardAt)) / 10;
    // Set, or begun again: how much time lies between the last sample and this one is known to nobody.
    if (polled.lastT > -Infinity && (t < polled.lastT || t > polled.lastT + most)) {
      polled.epoch = this.epochNow('clock-jumped');
      polled.lastT = -Infinity;
    } else if (polled.lastT > -Infinity && lost) polled.epoch = this.epochNow('was-silent');
    if (t <= polled.lastT) {
      // The same moment once more: the device is quicker asked than it measures, or it has frozen.
      const still = this.seconds() - polled.newAt;
      const words = `its clock has stood still for ${Math.round(still)} s, and its figures with it`;
      if (still > FROZEN_S) throw wireRefusal(channelName(polled.config), 'status', words);
      return;
    }
    polled.lastT = t;
    polled.newAt = this.seconds();
    const { signal, unit, temperatureC, impedance } = reading;
    const { epoch } = polled;
    const data = { channelId, t, epoch, signal, unit, temperatureC, ...(impedance ? { impedance } : {}) };
    // First the sample: a screen that hears “live” must not take what it has from before for the newest.
    this.hub.publish({ event: 'sample', data });
    this.hub.publish({ event: 'state', data: { channelId, state: 'live', message: '' } });
  }

  /** A device that says it does not measure is at fault at once; one that is silent is stale once its limit has passed. */
  private tellTrouble(polled: Polled, error: unknown): void {
    const { channelId, config } = polled;
    const fault = error instanceof Refusal && error.code === 'device-fault';
    const silent = this.seconds() - polled.heardAt;
    if (!fault && config.kind !== 'modbus' && polled.lastT > -Infinity && silent < config.staleSeconds) return;
    const message = error instanceof Refusal ? error.message : 'The device does not answer. Check plug and address.';
    this.hub.publish({ event: 'state', data: { channelId, state: fault ? 'fault' : 'stale', message } });
  }

  private epochNow(because: EpochCause): string {
    return epochText({ because, atMs: this.now() });
  }
}

/** Who is meant, in a sentence about a channel. */
const channelName = (config: Polled['config']) =>
  config.kind === 'http-json' ? config.url : `${config.host}:${config.port}`;

/** A figure as the test says it: a tenth of a millivolt, or four places of what is small. */
const figure = (value: number, unit: string) =>
  unit === 'mV' || Math.abs(value) >= 10 ? value.toFixed(1) : String(Number(value.toPrecision(4)));

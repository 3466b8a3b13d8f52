import type { ChannelConfig } from '@frustum/contract';
import { Refusal, type Coefficients } from '@frustum/core';
import type { LiveHub } from './live-hub.ts';
import { ModbusConnection } from './modbus-client.ts';

/** Pace while somebody looks, while nobody does, and after a failure, ms. */
const WATCHED_MS = 200;
const IDLE_MS = 2000;
const RETRY_MS = 1000;

interface Polled {
  readonly channelId: string;
  readonly config: Extract<ChannelConfig, { kind: 'modbus' }>;
  timer: NodeJS.Timeout | null;
  /** added to the device's clock, so that a restart of the device does not send the trace back in time */
  clockOffset: number;
  lastT: number;
}

/** Reads every wired channel, each at its own pace, and tells the hub. A silent device slows down nobody else. */
export class Poller {
  private readonly hub: LiveHub;
  private readonly connections = new Map<string, ModbusConnection>();
  private readonly polled = new Map<string, Polled>();
  private stopped = false;

  constructor(hub: LiveHub) {
    this.hub = hub;
  }

  add(channelId: string, config: ChannelConfig): void {
    if (config.kind !== 'modbus' || this.polled.has(channelId)) return;
    const polled: Polled = { channelId, config, timer: null, clockOffset: 0, lastT: -Infinity };
    this.polled.set(channelId, polled);
    void this.poll(polled);
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
    const polled = this.polled.get(channelId);
    if (!polled)
      throw new Refusal('channel-unknown', 'This channel cannot be written. Enter the figures at the controller.');
    return this.connection(polled).writeCoefficients(polled.config.baseAddress, coefficients);
  }

  stop(): void {
    this.stopped = true;
    for (const p of this.polled.values()) if (p.timer) clearTimeout(p.timer);
    for (const c of this.connections.values()) c.close();
  }

  private connection({ config }: Polled): ModbusConnection {
    const key = `${config.host}:${config.port}/${config.unitId}`;
    const known = this.connections.get(key) ?? new ModbusConnection(config.host, config.port, config.unitId);
    this.connections.set(key, known);
    return known;
  }

  private async poll(polled: Polled): Promise<void> {
    const { channelId, config } = polled;
    let pause = this.hub.isWatched(channelId) ? WATCHED_MS : IDLE_MS;
    try {
      const reading = await this.connection(polled).read(config.baseAddress);
      const t = this.monotone(polled, reading.clockSeconds);
      this.hub.publish({ event: 'state', data: { channelId, state: 'live', message: '' } });
      if (t > polled.lastT) {
        polled.lastT = t;
        const { potentialMv, temperatureC } = reading;
        this.hub.publish({ event: 'sample', data: { channelId, t, potentialMv, temperatureC } });
      }
    } catch (error) {
      pause = RETRY_MS;
      const message = error instanceof Refusal ? error.message : 'The device does not answer. Check plug and address.';
      this.hub.publish({ event: 'state', data: { channelId, state: 'stale', message } });
    }
    if (!this.stopped) polled.timer = setTimeout(() => void this.poll(polled), pause);
  }

  private monotone(polled: Polled, clockSeconds: number): number {
    let t = clockSeconds + polled.clockOffset;
    if (t < polled.lastT) {
      polled.clockOffset = polled.lastT - clockSeconds + 1;
      t = clockSeconds + polled.clockOffset;
    }
    return Math.round(t * 10) / 10;
  }
}

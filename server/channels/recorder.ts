import type { LiveHub, Numbered, PastReading } from './live-hub.ts';
import type { MinuteRecord } from '../store/commands/readings.ts';

const MINUTE_MS = 60_000;
/** How often finished minutes are written, ms. */
const EVERY_MS = 10_000;

interface Sums {
  readonly channelId: string;
  readonly minute: number;
  count: number;
  sum: number;
  low: number;
  high: number;
  sumC: number;
}

/**
 * Rolls live samples up to minutes and keeps them. Stale, faulty and out-of-range values never reach the hub as samples, and
 * so are never kept; counts are not kept either: they mean nothing.
 */
export class Recorder {
  /** by channel and minute: what a device sends later belongs to minutes that are long over */
  private readonly open = new Map<string, Sums>();
  private finished: Omit<MinuteRecord, 'onBench'>[] = [];
  private readonly keep: (minutes: readonly Omit<MinuteRecord, 'onBench'>[]) => Promise<void>;
  private readonly now: () => number;
  private readonly stops: (() => void)[];

  constructor(
    hub: LiveHub,
    keep: (minutes: readonly Omit<MinuteRecord, 'onBench'>[]) => Promise<void>,
    now: () => number,
  ) {
    this.keep = keep;
    this.now = now;
    const timer = setInterval(() => void this.flush(false), EVERY_MS);
    this.stops = [
      hub.listen((n) => this.take(n)),
      hub.onFiled((reading) => this.add(reading, reading.atMs)),
      () => clearInterval(timer),
    ];
  }

  /** Writes what is finished; at the end also the minutes that are not. */
  async flush(all: boolean): Promise<void> {
    const minute = Math.floor(this.now() / MINUTE_MS);
    for (const [key, sums] of this.open) if (all || sums.minute !== minute) this.close(key, sums);
    const mine = this.finished;
    this.finished = [];
    if (!mine.length) return;
    try {
      await this.keep(mine);
    } catch {
      // The database is busy or going down: they go with the next ones.
      this.finished = [...mine, ...this.finished];
    }
  }

  stop(): void {
    for (const stop of this.stops) stop();
  }

  private take({ message }: Numbered): void {
    if (message.event === 'sample') this.add(message.data, this.now());
  }

  private add({ channelId, signal, unit, temperatureC }: Omit<PastReading, 'atMs'>, atMs: number): void {
    if (unit === 'counts') return;
    const minute = Math.floor(atMs / MINUTE_MS);
    const key = `${channelId} ${minute}`;
    let sums = this.open.get(key);
    if (!sums) {
      sums = { channelId, minute, count: 0, sum: 0, low: Infinity, high: -Infinity, sumC: 0 };
      this.open.set(key, sums);
    }
    sums.count++;
    sums.sum += signal;
    sums.sumC += temperatureC;
    sums.low = Math.min(sums.low, signal);
    sums.high = Math.max(sums.high, signal);
  }

  private close(key: string, { channelId, minute, count, sum, low, high, sumC }: Sums): void {
    this.open.delete(key);
    const at = new Date(minute * MINUTE_MS).toISOString();
    this.finished.push({ channelId, minute: at, count, mean: sum / count, low, high, temperatureC: sumC / count });
  }
}

import type { LiveSample, LiveState } from '@frustum/contract';

export type LiveMessage =
  | { readonly event: 'sample'; readonly data: LiveSample }
  | { readonly event: 'state'; readonly data: LiveState };
/** A sample that has just come: the hub says when. */
type News =
  | { readonly event: 'sample'; readonly data: Omit<LiveSample, 'atMs'> }
  | Extract<LiveMessage, { event: 'state' }>;
export interface Numbered<M extends LiveMessage = LiveMessage> {
  readonly id: number;
  readonly message: M;
}
type NumberedSample = Numbered<Extract<LiveMessage, { event: 'sample' }>>;
type NumberedState = Numbered<Extract<LiveMessage, { event: 'state' }>>;

/** Samples kept of a channel that somebody watches: half an hour at 4 Hz, so that a reloaded bench has its trace again. */
const KEPT = 7200;
/** Samples kept of a channel that nobody watches. */
const KEPT_IDLE = 900;

type Listener = (numbered: Numbered) => void;

/** A reading from before, that a device has sent later: kept, and never live. */
export interface PastReading {
  readonly channelId: string;
  /** when it was taken, epoch ms */
  readonly atMs: number;
  readonly signal: number;
  readonly unit: LiveSample['unit'];
  readonly temperatureC: number;
}

/** Latest samples and states of all channels, numbered in the order in which they came, and who listens. */
export class LiveHub {
  private count = 0;
  private readonly rings = new Map<string, NumberedSample[]>();
  private readonly states = new Map<string, NumberedState>();
  private readonly listeners = new Set<Listener>();
  private readonly filers = new Set<(reading: PastReading) => void>();
  private readonly watched = new Map<string, number>();
  /** this machine's clock, epoch ms */
  readonly now: () => number;

  constructor(now: () => number = Date.now) {
    this.now = now;
  }

  publish(message: News): void {
    if (message.event === 'state' && !this.isNews(message.data)) return;
    const id = ++this.count;
    const { channelId } = message.data;
    if (message.event === 'state') {
      const numbered = { id, message };
      this.states.set(channelId, numbered);
      for (const listener of this.listeners) listener(numbered);
      return;
    }
    const { data } = message;
    const numbered: NumberedSample = { id, message: { event: 'sample', data: { ...data, atMs: this.now() } } };
    let ring = this.rings.get(channelId) ?? [];
    // The channel's clock began anew: samples of two clocks do not make one trace.
    if (ring.length && ring.at(-1)!.message.data.epoch !== data.epoch) ring = [];
    ring.push(numbered);
    const most = this.isWatched(channelId) ? KEPT : KEPT_IDLE;
    // Cut in large pieces: once in a while, not with each sample.
    if (ring.length > 1.25 * most) ring.splice(0, ring.length - most);
    this.rings.set(channelId, ring);
    for (const listener of this.listeners) listener(numbered);
  }

  /** Samples of one channel since the message with this id, oldest first. */
  since(channelId: string, id: number): readonly NumberedSample[] {
    const ring = this.rings.get(channelId) ?? [];
    let from = ring.length;
    while (from > 0 && ring[from - 1]!.id > id) from--;
    return from === 0 ? ring : ring.slice(from);
  }

  /** The newest samples of one channel, that came after a moment, oldest first. */
  lately(channelId: string, most: number, afterMs: number): readonly LiveSample[] {
    const ring = this.rings.get(channelId) ?? [];
    return ring.slice(-most).flatMap((s) => (s.message.data.atMs > afterMs ? [s.message.data] : []));
  }

  /** States of all channels that have changed since the message with this id. */
  statesSince(id: number): readonly NumberedState[] {
    return [...this.states.values()].filter((s) => s.id > id);
  }

  /** The newest sample of each channel that has one since the message with this id. */
  latestSince(id: number): readonly NumberedSample[] {
    return [...this.rings.values()].flatMap((ring) => (ring.at(-1) && ring.at(-1)!.id > id ? [ring.at(-1)!] : []));
  }

  stateOf(channelId: string): LiveState | null {
    return this.states.get(channelId)?.message.data ?? null;
  }

  /** Everything as it comes, of every channel. Returns how to stop. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Passes a reading with an earlier time to the recorder. It does not reach the live stream. */
  file(reading: PastReading): void {
    for (const filer of this.filers) filer(reading);
  }

  /** Every reading from before. Returns how to stop. */
  onFiled(filer: (reading: PastReading) => void): () => void {
    this.filers.add(filer);
    return () => this.filers.delete(filer);
  }

  /** Somebody looks at these channels: they are read at their full pace. Returns how to look away. */
  watch(channelIds: readonly string[]): () => void {
    for (const id of channelIds) this.watched.set(id, (this.watched.get(id) ?? 0) + 1);
    return () => {
      for (const id of channelIds) this.watched.set(id, (this.watched.get(id) ?? 1) - 1);
    };
  }

  isWatched(channelId: string): boolean {
    return (this.watched.get(channelId) ?? 0) > 0;
  }

  private isNews({ channelId, state, message }: LiveState): boolean {
    const before = this.stateOf(channelId);
    return before?.state !== state || before.message !== message;
  }
}

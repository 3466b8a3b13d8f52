import { useSyncExternalStore } from 'react';
import type { ChannelState, Latest, LiveSample, LiveState, Said } from '@frustum/contract';
import { serverClock, type ServerClock } from './server-clock.ts';

/** What is known of a channel just now. */
interface LiveChannel {
  readonly state: ChannelState;
  readonly message: string;
  readonly sample: LiveSample | null;
}

const UNKNOWN: LiveChannel = { state: 'off', message: '', sample: null };
/** The server itself is out of reach: nothing that stands here is fresh. */
const AWAY = 'No connection to Frustum’s server. The trace goes on when it is back.';
/** It is back, and has said nothing of this channel yet. */
const BACK = 'Frustum’s server is back. Waiting for its first reading.';

/** `readyState` of a stream that has given up. */
const GIVEN_UP = 2;
const AGAIN_MS = 2000;
/** Two beats and a half of the server. */
const SILENT_MS = 25_000;

type Heard = (sample: LiveSample) => void;

/** The part of an EventSource that is needed; a test hands in its own. */
export interface Stream {
  addEventListener(event: string, listener: (event: MessageEvent<string>) => void): void;
  close(): void;
  /** 2 = given up: it does not try again by itself */
  readonly readyState: number;
}

/**
 * The one stream of this tab: states of all channels, full traces of those that a bench watches, the newest value of the
 * others. Opened anew when the bench changes; what comes twice is for the listener to drop, by its time.
 */
export class LiveConnection {
  private readonly open: (url: string) => Stream;
  private readonly clock: ServerClock;
  private stream: Stream | null = null;
  private readonly channels = new Map<string, LiveChannel>();
  private readonly watchers = new Map<string, Set<Heard>>();
  private readonly listeners = new Set<() => void>();
  private readonly onChanged = new Set<() => void>();
  private url = '';
  private away = false;
  private waiting = false;
  private watchdog: ReturnType<typeof setTimeout> | undefined;

  constructor(open: (url: string) => Stream, clock = serverClock) {
    this.open = open;
    this.clock = clock;
  }

  of(channelId: string): LiveChannel {
    return this.channels.get(channelId) ?? UNKNOWN;
  }

  /** Called whenever any channel has moved. */
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    this.tune();
    return () => this.listeners.delete(listener);
  };

  /** Every sample of a channel, the kept ones first. */
  watch(channelId: string, heard: Heard): () => void {
    const set = this.watchers.get(channelId) ?? new Set<Heard>();
    set.add(heard);
    this.watchers.set(channelId, set);
    // A page that begins to watch needs the kept samples: the server gives them at the beginning of a stream.
    this.url = '';
    this.tune();
    return () => {
      set.delete(heard);
      if (!set.size) this.watchers.delete(channelId);
      this.tune();
    };
  }

  /** Records have changed, or may have, on this device or another. */
  changes(listener: () => void): void {
    this.onChanged.add(listener);
    this.tune();
  }

  /** Opens the stream that is needed now, once for all that asked in this moment. */
  private tune(): void {
    if (this.waiting) return;
    this.waiting = true;
    queueMicrotask(() => {
      this.waiting = false;
      const url = `/api/live?watch=${[...this.watchers.keys()].sort().join(',')}`;
      if (url === this.url) return;
      this.url = url;
      this.stream?.close();
      this.listenTo(this.open(url));
    });
  }

  private listenTo(stream: Stream): void {
    const first = this.stream === null;
    this.stream = stream;
    this.heardNow();
    let opened = false;
    /** nothing was heard on this connection yet */
    let anew = true;
    const data = <T>(event: MessageEvent<string>) => JSON.parse(event.data) as T;
    stream.addEventListener('sample', (event) => {
      const sample = data<LiveSample>(event);
      this.clock.heard(sample.atMs);
      this.set(sample.channelId, { sample });
      this.watchers.get(sample.channelId)?.forEach((heard) => heard(sample));
    });
    stream.addEventListener('latest', (event) => {
      for (const sample of data<Latest>(event).samples) this.set(sample.channelId, { sample });
    });
    stream.addEventListener('state', (event) => {
      const { channelId, state, message } = data<LiveState>(event);
      this.set(channelId, { state, message });
    });
    for (const event of ['beat', 'changed'])
      stream.addEventListener(event, (said) => {
        const { nowMs } = data<Said>(said);
        if (anew) this.clock.hearsAnew(nowMs);
        else this.clock.heard(nowMs);
        anew = false;
      });
    for (const event of ['sample', 'latest', 'state', 'changed', 'beat', 'open'])
      stream.addEventListener(event, () => this.heardNow());
    stream.addEventListener('changed', () => this.onChanged.forEach((listener) => listener()));
    stream.addEventListener('error', () => {
      this.setAway(true);
      if (stream.readyState === GIVEN_UP) this.again(AGAIN_MS);
    });
    stream.addEventListener('open', () => {
      this.setAway(false);
      // Back after a gap: something may have happened meanwhile.
      if (opened || !first) this.onChanged.forEach((listener) => listener());
      opened = true;
      anew = true;
    });
  }

  /** The server beats every ten seconds: after a longer silence the connection is dead, even without a close. */
  private heardNow(): void {
    this.again(SILENT_MS);
  }

  /** Opens the stream anew after so long, unless something comes first. */
  private again(afterMs: number): void {
    clearTimeout(this.watchdog);
    this.watchdog = setTimeout(() => {
      this.setAway(true);
      this.url = '';
      this.tune();
    }, afterMs);
  }

  private setAway(away: boolean): void {
    if (away === this.away) return;
    this.away = away;
    for (const [id, known] of this.channels) {
      if (away && known.state === 'live') this.channels.set(id, { ...known, state: 'stale', message: AWAY });
      if (!away && known.message === AWAY) this.channels.set(id, { ...known, message: BACK });
    }
    this.tell();
  }

  private set(channelId: string, change: Partial<LiveChannel>): void {
    this.channels.set(channelId, { ...this.of(channelId), ...change });
    this.tell();
  }

  private tell(): void {
    for (const listener of this.listeners) listener();
  }
}

export const live = new LiveConnection((url) => new EventSource(url));

/** State and newest sample of a channel, fresh on screen. */
export function useLiveChannel(channelId: string): LiveChannel {
  return useSyncExternalStore(live.subscribe, () => live.of(channelId));
}

/** Whether it is live, and the sentence for it if not: moves only when one of them does, not with every sample. */
export function useLiveState(channelId: string): Pick<LiveChannel, 'state' | 'message'> {
  const state = useSyncExternalStore(live.subscribe, () => live.of(channelId).state);
  const message = useSyncExternalStore(live.subscribe, () => live.of(channelId).message);
  return { state, message };
}

import type { LiveSample, LiveState } from '@frustum/contract';

export type LiveMessage =
  { readonly event: 'sample'; readonly data: LiveSample } | { readonly event: 'state'; readonly data: LiveState };
export interface Numbered {
  readonly id: number;
  readonly message: LiveMessage;
}

/** Samples kept for each channel: half an hour at 4 Hz, so that a reloaded bench has its trace again. */
const KEPT = 7200;

type Listener = (numbered: Numbered) => void;

/** Latest samples and states of all channels, and who listens. */
export class LiveHub {
  private count = 0;
  private readonly samples = new Map<string, Numbered[]>();
  private readonly states = new Map<string, Numbered>();
  private readonly listeners = new Set<Listener>();
  private readonly watched = new Map<string, number>();

  publish(message: LiveMessage): void {
    const numbered = { id: ++this.count, message };
    if (message.event === 'state') {
      const before = this.states.get(message.data.channelId)?.message.data as LiveState | undefined;
      if (before?.state === message.data.state && before.message === message.data.message) return;
      this.states.set(message.data.channelId, numbered);
    } else {
      const ring = this.samples.get(message.data.channelId) ?? [];
      ring.push(numbered);
      if (ring.length > KEPT) ring.splice(0, ring.length - KEPT);
      this.samples.set(message.data.channelId, ring);
    }
    for (const listener of this.listeners) listener(numbered);
  }

  /** What a listener has missed of one channel since the message with this id. */
  since(channelId: string, id: number): Numbered[] {
    const state = this.states.get(channelId);
    const samples = this.samples.get(channelId) ?? [];
    const from = samples.findIndex((n) => n.id > id);
    return [...(state ? [state] : []), ...(from < 0 ? [] : samples.slice(from))];
  }

  listen(channelId: string, listener: Listener): () => void {
    const mine: Listener = (n) => {
      if (n.message.data.channelId === channelId) listener(n);
    };
    this.listeners.add(mine);
    this.watched.set(channelId, (this.watched.get(channelId) ?? 0) + 1);
    return () => {
      this.listeners.delete(mine);
      this.watched.set(channelId, (this.watched.get(channelId) ?? 1) - 1);
    };
  }

  isWatched(channelId: string): boolean {
    return (this.watched.get(channelId) ?? 0) > 0;
  }
}

import type { Latest } from '@frustum/contract';
import type { LiveHub, Numbered } from './live-hub.ts';

/** Messages that go out in one piece. */
const AT_ONCE = 200;

/**
 * One browser's place in the stream. It remembers how far it has come and nothing else: a slow reader gets its
 * samples later from the hub's own memory, and what has left that memory not at all. The poller never waits.
 */
export class LiveReader {
  private readonly hub: LiveHub;
  private readonly watched: ReadonlySet<string>;
  private readonly write: (text: string) => boolean;
  private readonly idOf: (id: number) => string;
  private readonly reached = new Map<string, number>();
  private statesTo: number;
  private latestTo = 0;
  private full = false;
  /** said while it could not listen */
  private readonly owed = new Set<string>();

  /**
   * @param lastId what this browser has had already; 0 = nothing
   * @param write sends text and says whether more may come at once
   */
  constructor(
    hub: LiveHub,
    watched: readonly string[],
    lastId: number,
    write: (text: string) => boolean,
    idOf: (id: number) => string = String,
  ) {
    this.hub = hub;
    this.watched = new Set(watched);
    this.write = write;
    this.idOf = idOf;
    // A screen that was cut off knows no state any more: it hears them all.
    this.statesTo = 0;
    for (const channelId of watched) this.reached.set(channelId, lastId);
  }

  /** A message has come: does it concern this browser? */
  heard({ message }: Numbered): void {
    if (message.event === 'state' || this.watched.has(message.data.channelId)) this.pump();
  }

  /** Sends what there is, until the browser has enough. */
  pump(): void {
    if (this.full) return;
    // Samples first: “live” must not be heard while the newest one here is from before.
    for (const [channelId, reached] of this.reached) {
      let missed = this.hub.since(channelId, reached);
      while (missed.length && !this.full) {
        const part = missed.slice(0, AT_ONCE);
        missed = missed.slice(AT_ONCE);
        this.reached.set(channelId, part.at(-1)!.id);
        this.send(part);
      }
    }
    if (this.full) return;
    for (const state of this.hub.statesSince(this.statesTo)) {
      this.statesTo = Math.max(this.statesTo, state.id);
      this.send([state]);
    }
  }

  /** The browser can take more. */
  drained(): void {
    this.full = false;
    const owed = [...this.owed];
    this.owed.clear();
    for (const event of owed) this.note(event);
    this.pump();
  }

  /** Once a second: the newest sample of every other channel, one message for all. */
  tick(): void {
    if (this.full) return;
    const news = this.hub.latestSince(this.latestTo);
    if (!news.length) return;
    this.latestTo = Math.max(...news.map((n) => n.id));
    const samples = news.map((n) => n.message.data).filter((s) => !this.watched.has(s.channelId));
    if (samples.length) this.put(`event: latest\ndata: ${JSON.stringify({ samples } satisfies Latest)}\n\n`);
  }

  /**
   * Anything else that this browser should hear, with the server's time: once it can, and then once however often it was
   * said meanwhile.
   */
  note(event: string): void {
    if (this.full) this.owed.add(event);
    else this.put(`event: ${event}\ndata: ${JSON.stringify({ nowMs: this.hub.now() })}\n\n`);
  }

  private send(messages: readonly Numbered[]): void {
    const lines = messages.map(
      ({ id, message }) => `id: ${this.idOf(id)}\nevent: ${message.event}\ndata: ${JSON.stringify(message.data)}\n\n`,
    );
    this.put(lines.join(''));
  }

  private put(text: string): void {
    this.full = !this.write(text);
  }
}

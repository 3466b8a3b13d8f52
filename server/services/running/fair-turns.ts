import { Refusal } from '@frustum/core';

/** Askers whose turn is remembered. */
const MAX_REMEMBERED = 1000;

interface Waiting {
  readonly work: () => Promise<void>;
  /** nobody waits for it any more */
  readonly gone: () => boolean;
  readonly drop: () => void;
}

/**
 * Lets costly work through, a little at once. A client that asks for much waits behind its own requests: the next one is always taken from
 * another asker, and what nobody waits for any more is not done.
 */
export class FairTurns {
  private readonly atOnce: number;
  private readonly mostWaiting: number;
  private running = 0;
  private readonly queues = new Map<string, Waiting[]>();
  /** who was served when, counted; the newest stand last */
  private readonly served = new Map<string, number>();
  private count = 0;

  /** @param mostWaiting of one asker */
  constructor(atOnce: number, mostWaiting: number) {
    this.atOnce = atOnce;
    this.mostWaiting = mostWaiting;
  }

  /**
   * @param asker who wants it
   * @param gone whether nobody waits for the answer any more
   * @returns null when it was not done, because nobody waits for it
   * @throws Refusal `too-many` when the asker has enough waiting already
   */
  run<T>(asker: string, gone: () => boolean, work: () => Promise<T>): Promise<T | null> {
    const mine = this.queues.get(asker) ?? [];
    if (mine.length >= this.mostWaiting)
      throw new Refusal(
        'too-many',
        `${mine.length} of these are being worked out for you already. Wait for one of them.`,
      );
    return new Promise<T | null>((resolve, reject) => {
      // What throws before it has begun to wait is a refusal like any other.
      const begun = async () => work();
      mine.push({ work: () => begun().then(resolve, reject), gone, drop: () => resolve(null) });
      this.queues.set(asker, mine);
      this.next();
    });
  }

  private next(): void {
    while (this.running < this.atOnce) {
      const when = (asker: string) => this.served.get(asker) ?? 0;
      const asker = [...this.queues.keys()].sort((a, b) => when(a) - when(b))[0];
      if (asker === undefined) return;
      const mine = this.queues.get(asker)!;
      const one = mine.shift()!;
      if (!mine.length) this.queues.delete(asker);
      this.served.delete(asker);
      this.served.set(asker, ++this.count);
      if (this.served.size > MAX_REMEMBERED) this.served.delete(this.served.keys().next().value!);
      if (one.gone()) {
        one.drop();
        continue;
      }
      this.running++;
      void one.work().finally(() => {
        this.running--;
        this.next();
      });
    }
  }
}

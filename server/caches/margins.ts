import { randomUUID } from 'node:crypto';
import type { ConeView, LoopRow } from '@frustum/contract';

/** Without a change a row is good for so long, ms: an error moves by less than its last digit meanwhile. */
const GOOD_FOR_MS = 60_000;

/** Margins as they were worked out last, ready to be sent. */
export interface MadeMargins {
  readonly rows: readonly LoopRow[];
  readonly cones: ReadonlyMap<string, ConeView>;
  /** the answer, as it goes out: encoded once for all */
  readonly json: Buffer;
}

/**
 * Margins for everybody who asks: worked out once for each state of the house, however many ask at once, and not again for
 * whoever has that state already.
 */
export class KeptMargins {
  /** names this life of the house in marks: numbers of another one, before a restore, mean nothing */
  private readonly life = randomUUID();
  private changes = 0;
  private made: { readonly mark: string; readonly promise: Promise<MadeMargins> } | null = null;

  /** Something has changed that Margins may rest on. */
  forget(): void {
    this.changes++;
  }

  /** Names what `read` would give now: two equal marks, two equal answers. @param doubted the clock cannot be believed */
  markAt(nowMs: number, doubted: boolean): string {
    return `W/"${this.life}-${this.changes}-${Math.floor(nowMs / GOOD_FOR_MS)}${doubted ? '-doubt' : ''}"`;
  }

  /** What was made for a mark; made now where there is nothing yet. */
  read(mark: string, make: () => Promise<MadeMargins>): Promise<MadeMargins> {
    if (this.made?.mark === mark) return this.made.promise;
    const promise = make();
    // What could not be read is read anew the next time.
    promise.catch(() => (this.made = null));
    this.made = { mark, promise };
    return promise;
  }
}

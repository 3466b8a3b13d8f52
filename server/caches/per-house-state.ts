import { randomUUID } from 'node:crypto';

/** Gives every state of the house a mark. A cached answer is good as long as the mark is the one it was made under. */
export class Marks {
  /** random for each opening of a house: after a restore the count of changes begins anew, and must not repeat an old mark */
  private readonly life = randomUUID();
  private changes = 0;
  private news = 0;

  /** Something has changed that answers may rest on. */
  changed(): void {
    this.changes++;
  }

  /** A transmitter or a reading says another thing than before: what is kept in the house is the same. */
  heard(): void {
    this.news++;
  }

  /** The same with what was heard. */
  withNewsAt(...at: Parameters<Marks['at']>): string {
    return `${this.at(...at)}-${this.news}`;
  }

  /**
   * Two equal marks, two equal answers.
   *
   * @param goodForMs how long an answer is good without a change
   * @param doubted the clock cannot be believed
   */
  at(nowMs: number, goodForMs: number, doubted: boolean): string {
    return `${this.life}-${this.changes}-${Math.floor(nowMs / goodForMs)}${doubted ? '-doubt' : ''}`;
  }
}

/** A costly value, computed once for each state of the house, however many ask for it at the same time. */
export class PerHouseState<T> {
  private made: { readonly mark: string; readonly promise: Promise<T> } | null = null;

  /** The value for a mark; computed now if there is none yet. */
  read(mark: string, make: () => Promise<T>): Promise<T> {
    if (this.made?.mark === mark) return this.made.promise;
    const promise = make();
    const mine = { mark, promise };
    // After a failure the next reader computes it again.
    promise.catch(() => {
      if (this.made === mine) this.made = null;
    });
    this.made = mine;
    return promise;
  }
}

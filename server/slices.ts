/** Cuts long work on the main thread into slices, between which other requests are answered. */
export class Slices {
  private readonly ms: number;
  private since = performance.now();

  /** @param ms longest slice: no request waits longer for this work */
  constructor(ms = 12) {
    this.ms = ms;
  }

  /** Whether this slice has lasted long enough. */
  get isOver(): boolean {
    return performance.now() - this.since >= this.ms;
  }

  /** Lets the waiting requests run, and begins the next slice. */
  async next(): Promise<void> {
    await new Promise(setImmediate);
    this.since = performance.now();
  }
}

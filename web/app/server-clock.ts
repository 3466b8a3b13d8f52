/** What was heard in so long is remembered by its best, for twice as long, ms: the server's own clock may be set too. */
const REMEMBERED_MS = 60_000;

/**
 * What time it is at the server, whatever this device's clock says and however often it is set. All that the server sends
 * says when it was sent; what took least on its way says it best.
 */
export class ServerClock {
  private readonly steady: () => number;
  private readonly own: () => number;
  /** server's time minus the steady clock: the best of this minute and of the one before; null before anything was heard */
  private ahead: readonly [number, number] | null = null;
  private from = 0;

  /**
   * @param steady milliseconds that nobody can set
   * @param own this device's clock, epoch ms: until something is heard
   */
  constructor(steady: () => number = () => performance.now(), own: () => number = Date.now) {
    this.steady = steady;
    this.own = own;
  }

  /** The server said this time, a moment ago or longer. */
  heard(serverMs: number): void {
    const steady = this.steady();
    const ahead = serverMs - steady;
    if (!this.ahead || steady - this.from >= REMEMBERED_MS) {
      this.ahead = [ahead, this.ahead?.[0] ?? -Infinity];
      this.from = steady;
    } else this.ahead = [Math.max(ahead, this.ahead[0]), this.ahead[1]];
  }

  /** Another connection, perhaps to another life of the server: it says this time now. */
  hearsAnew(serverMs: number): void {
    this.ahead = null;
    this.heard(serverMs);
  }

  /** epoch ms */
  now(): number {
    return this.ahead ? this.steady() + Math.max(...this.ahead) : this.own();
  }
}

export const serverClock = new ServerClock();

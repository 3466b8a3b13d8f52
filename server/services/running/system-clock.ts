import { uptime } from 'node:os';
import type { ClockDoubt } from '@frustum/contract';

/** A set-back smaller than this is no wrong clock: the network sets a good one now and then, ms. */
const SLACK_MS = 60_000;
/** A jump larger than this is one, ms. */
const JUMP_MS = 300_000;

/** Where the two clocks come from; a test has its own. */
interface Clocks {
  /** this computer's clock, epoch ms: it can be set, and begins anywhere on a board without a battery */
  readonly system?: () => number;
  /** seconds since the computer was started, sleep included: nobody can set them */
  readonly sinceStart?: () => number;
}

/**
 * What time it is, for everything that the server writes and judges. While the computer's clock cannot be believed, the last
 * time that could be goes on by the seconds that have passed: what is reckoned with never runs back behind a record.
 */
export class SystemClock {
  private readonly system: () => number;
  private readonly sinceStart: () => number;
  /** a moment at which the time was believed, by both clocks */
  private believed: { readonly ms: number; readonly s: number };
  doubt: ClockDoubt | null = null;

  /** @param newestMs time of the newest record, epoch ms; null when there is none */
  constructor(newestMs: number | null, { system = Date.now, sinceStart = uptime }: Clocks = {}) {
    this.system = system;
    this.sinceStart = sinceStart;
    this.believed = { ms: system(), s: sinceStart() };
    if (newestMs !== null && this.believed.ms < newestMs - SLACK_MS) {
      this.doubt = { because: 'before-newest', saidMs: this.believed.ms, reckonedMs: newestMs };
      this.believed = { ms: newestMs, s: this.believed.s };
    }
  }

  /** epoch ms */
  readonly now = (): number => {
    this.look();
    return this.doubt ? this.reckoned() : this.system();
  };

  /** A person has looked: what the computer says is right. */
  confirm(): void {
    this.doubt = null;
    this.believed = { ms: this.system(), s: this.sinceStart() };
  }

  private reckoned(): number {
    return Math.round(this.believed.ms + 1000 * (this.sinceStart() - this.believed.s));
  }

  private look(): void {
    const [saidMs, reckonedMs] = [this.system(), this.reckoned()];
    const ahead = saidMs - reckonedMs;
    if (this.doubt === null) {
      if (Math.abs(ahead) <= JUMP_MS) this.believed = { ms: saidMs, s: this.sinceStart() };
      else this.doubt = { because: 'jumped', saidMs, reckonedMs };
    } else if (this.doubt.because === 'before-newest' ? ahead >= -SLACK_MS : Math.abs(ahead) <= JUMP_MS) this.confirm();
  }
}

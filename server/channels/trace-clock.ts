import { epochText, type EpochCause } from '@frustum/contract';

/** A stand-in's clock may run this much faster than life; beyond it, and some slack, a clock has jumped. */
const FASTEST_CLOCK = 40;
const CLOCK_SLACK_S = 10;
/** A device that shows one and the same moment for so long has frozen, s. */
const FROZEN_S = 15;

/** Where a sample stands in its channel's trace, or why there is none. */
type Placed =
  | { readonly as: 'sample'; readonly t: number; readonly epoch: string }
  /** the same moment once more: the device is quicker asked than it measures */
  | { readonly as: 'same' }
  | { readonly as: 'frozen'; readonly stillSeconds: number };

/**
 * The time of a channel's trace: the device's own clock, which goes on without a break within an epoch. Where how much time
 * lies between two samples is known to nobody, a new epoch begins.
 */
export class TraceClock {
  private readonly seconds: () => number;
  private readonly nowMs: () => number;
  private readonly staleSeconds: number;
  private epoch: string;
  private lastT = -Infinity;
  /** when its time last moved on, when a reading last came, and when that was asked for, by `seconds` */
  private newAt: number;
  private heardAt: number;
  private askedAt: number;

  /**
   * @param epoch in which it begins
   * @param staleSeconds silence of a device without a clock, after which its trace begins anew
   * @param seconds that never run back: the time for devices without a clock
   */
  constructor(epoch: string, staleSeconds: number, seconds: () => number, nowMs: () => number) {
    this.epoch = epoch;
    this.staleSeconds = staleSeconds;
    this.seconds = seconds;
    this.nowMs = nowMs;
    this.newAt = this.heardAt = this.askedAt = seconds();
  }

  /** Nothing has come yet. */
  get isFresh(): boolean {
    return this.lastT === -Infinity;
  }

  /** How long nothing was heard, s. */
  get silentSeconds(): number {
    return this.seconds() - this.heardAt;
  }

  /**
   * Places a reading that has just come.
   *
   * @param clockSeconds the device's clock, s; null where it has none
   * @param askedAt when it was asked for, by `seconds`
   */
  place(clockSeconds: number | null, askedAt: number): Placed {
    const most = FASTEST_CLOCK * (this.seconds() - this.askedAt) + CLOCK_SLACK_S;
    // A device without a clock says nothing of where it was meanwhile: it may have been off, or plugged in elsewhere.
    const lost = clockSeconds === null && this.silentSeconds > this.staleSeconds;
    this.heardAt = this.seconds();
    this.askedAt = askedAt;
    const t = Math.round(10 * (clockSeconds ?? this.heardAt)) / 10;
    // Set, or begun again: how much time lies between the last sample and this one is known to nobody.
    if (!this.isFresh && (t < this.lastT || t > this.lastT + most)) {
      this.begins('clock-jumped');
      this.lastT = -Infinity;
    } else if (!this.isFresh && lost) this.begins('was-silent');
    if (t <= this.lastT) {
      const stillSeconds = this.seconds() - this.newAt;
      return stillSeconds > FROZEN_S ? { as: 'frozen', stillSeconds } : { as: 'same' };
    }
    this.lastT = t;
    this.newAt = this.seconds();
    return { as: 'sample', t, epoch: this.epoch };
  }

  private begins(because: EpochCause): void {
    this.epoch = epochText({ because, atMs: this.nowMs() });
  }
}

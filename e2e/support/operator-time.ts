import type { Locator } from '@playwright/test';

/** Seconds of an operator who knows the screen: for a key, for a tap or a click, and for a decision. */
const KEY_S = 0.28;
const TAP_S = 1.1;
const DECISION_S = 1.35;

/** Works at a screen and counts what hands and head had to do. */
export class OperatorTime {
  private keys = 0;
  private taps = 0;
  private decisions = 0;

  get seconds(): number {
    return this.keys * KEY_S + this.taps * TAP_S + this.decisions * DECISION_S;
  }

  /** Decides on a text, goes to its field and types it. */
  async types(field: Locator, text: string): Promise<void> {
    await field.fill(text);
    this.keys += text.length + 1;
    this.decisions++;
  }

  /** Decides on one of a list: opens it and picks. */
  async picks(list: Locator, label: string): Promise<void> {
    await list.selectOption({ label });
    this.taps += 2;
    this.decisions++;
  }

  /** Decides on something, and taps it. */
  async decides(target: Locator): Promise<void> {
    await this.presses(target);
    this.decisions++;
  }

  async presses(target: Locator): Promise<void> {
    await target.click();
    this.taps++;
  }

  toString(): string {
    return `${this.seconds.toFixed(0)} s: ${this.keys} keys, ${this.taps} taps, ${this.decisions} decisions`;
  }
}

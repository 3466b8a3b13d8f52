import { describe, expect, it } from 'vitest';
import { ServerClock } from './server-clock.ts';

describe('the server’s clock, as a browser knows it', () => {
  const made = () => {
    const at = { steady: 0, own: 5_000 };
    return {
      at,
      clock: new ServerClock(
        () => at.steady,
        () => at.own,
      ),
    };
  };

  it('is this device’s own until something is heard, and then whatever is set on the device does not matter', () => {
    const { at, clock } = made();
    expect(clock.now()).toBe(5_000);
    clock.heard(1_000_000);
    at.own -= 365 * 86_400_000;
    at.steady = 250;
    expect(clock.now()).toBe(1_000_250);
  });

  it('what was long on its way, or was kept for a reload, makes it no earlier', () => {
    const { at, clock } = made();
    clock.heard(1_000_000);
    at.steady = 30_000;
    clock.heard(1_029_000);
    clock.heard(600_000);
    expect(clock.now()).toBe(1_030_000);
  });

  it('a server whose own clock was set back is followed within two minutes, and at once on another connection', () => {
    const { at, clock } = made();
    clock.heard(1_000_000);
    for (at.steady = 10_000; at.steady <= 130_000; at.steady += 10_000) clock.heard(500_000 + at.steady);
    expect(clock.now()).toBe(500_000 + at.steady);
    clock.hearsAnew(7);
    expect(clock.now()).toBe(7);
  });
});

import { describe, expect, it } from 'vitest';
import { SystemClock } from './system-clock.ts';

const AT = Date.parse('2026-11-23T09:00:00Z');
const MINUTE = 60_000;

/** A computer whose clock can be set, beside seconds that cannot. */
function computer(at = AT) {
  let [ms, s] = [at, 1000];
  return {
    clocks: { system: () => ms, sinceStart: () => s },
    passes: (minutes: number) => {
      ms += minutes * MINUTE;
      s += 60 * minutes;
    },
    isSet: (byMinutes: number) => (ms += byMinutes * MINUTE),
  };
}

describe('the computer’s own clock', () => {
  it('is believed while it goes on as the seconds do, also when it is set by less than five minutes', () => {
    const it_ = computer();
    const clock = new SystemClock(AT - 1, it_.clocks);
    for (let i = 0; i < 100; i++) {
      it_.passes(7);
      it_.isSet(i % 2 ? 4.9 : -4.9);
      expect(clock.now()).toBe(it_.clocks.system());
    }
    expect(clock.doubt).toBeNull();
  });

  it('a slow drift of many small steps is no jump', () => {
    const it_ = computer();
    const clock = new SystemClock(null, it_.clocks);
    for (let i = 0; i < 500; i++) {
      it_.passes(60);
      it_.isSet(0.1);
      clock.now();
    }
    expect(clock.doubt).toBeNull();
  });

  it.each([-6, 6, 60 * 24 * 365])(
    'a jump of %d minutes is doubted: the time goes on as if it had not been',
    (minutes) => {
      const it_ = computer();
      const clock = new SystemClock(null, it_.clocks);
      it_.isSet(minutes);
      expect(clock.now()).toBe(AT);
      expect(clock.doubt).toEqual({ because: 'jumped', saidMs: AT + minutes * MINUTE, reckonedMs: AT });
      it_.passes(30);
      expect(clock.now()).toBe(AT + 30 * MINUTE);
      // It comes back by itself.
      it_.isSet(-minutes);
      expect(clock.now()).toBe(AT + 30 * MINUTE);
      expect(clock.doubt).toBeNull();
    },
  );

  it('a board without a battery begins before its newest record: reckoned from there, until the network has set it', () => {
    const it_ = computer(0);
    const clock = new SystemClock(AT, it_.clocks);
    expect(clock.now()).toBe(AT);
    expect(clock.doubt).toMatchObject({ because: 'before-newest', saidMs: 0 });
    it_.passes(2);
    expect(clock.now()).toBe(AT + 2 * MINUTE);
    it_.isSet(AT / MINUTE + 60 * 24);
    expect([clock.now(), clock.doubt]).toEqual([it_.clocks.system(), null]);
  });

  it('a person may say that it is right', () => {
    const it_ = computer(AT - 10 * MINUTE);
    const clock = new SystemClock(AT, it_.clocks);
    expect(clock.now()).toBe(AT);
    clock.confirm();
    it_.passes(1);
    expect([clock.now(), clock.doubt]).toEqual([AT - 9 * MINUTE, null]);
  });

  it('a record from a minute ahead is no reason to doubt it', () => {
    const it_ = computer();
    expect(new SystemClock(AT + MINUTE, it_.clocks).doubt).toBeNull();
    expect(new SystemClock(AT + MINUTE + 1, it_.clocks).doubt).not.toBeNull();
  });
});

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
    const machine = computer();
    const clock = new SystemClock(AT - 1, machine.clocks);
    for (let i = 0; i < 100; i++) {
      machine.passes(7);
      machine.isSet(i % 2 ? 4.9 : -4.9);
      expect(clock.now()).toBe(machine.clocks.system());
    }
    expect(clock.doubt).toBeNull();
  });

  it('a slow drift of many small steps is no jump', () => {
    const machine = computer();
    const clock = new SystemClock(null, machine.clocks);
    for (let i = 0; i < 500; i++) {
      machine.passes(60);
      machine.isSet(0.1);
      clock.now();
    }
    expect(clock.doubt).toBeNull();
  });

  it.each([-6, 6, 60 * 24 * 365])(
    'a jump of %d minutes is doubted: the time goes on as if it had not been',
    (minutes) => {
      const machine = computer();
      const clock = new SystemClock(null, machine.clocks);
      machine.isSet(minutes);
      expect(clock.now()).toBe(AT);
      expect(clock.doubt).toEqual({ because: 'jumped', saidMs: AT + minutes * MINUTE, reckonedMs: AT });
      machine.passes(30);
      expect(clock.now()).toBe(AT + 30 * MINUTE);
      // It comes back by itself.
      machine.isSet(-minutes);
      expect(clock.now()).toBe(AT + 30 * MINUTE);
      expect(clock.doubt).toBeNull();
    },
  );

  it('a board without a battery begins before its newest record: reckoned from there, until the network has set it', () => {
    const machine = computer(0);
    const clock = new SystemClock(AT, machine.clocks);
    expect(clock.now()).toBe(AT);
    expect(clock.doubt).toMatchObject({ because: 'before-newest', saidMs: 0 });
    machine.passes(2);
    expect(clock.now()).toBe(AT + 2 * MINUTE);
    machine.isSet(AT / MINUTE + 60 * 24);
    expect([clock.now(), clock.doubt]).toEqual([machine.clocks.system(), null]);
  });

  it('a person may say that it is right', () => {
    const machine = computer(AT - 10 * MINUTE);
    const clock = new SystemClock(AT, machine.clocks);
    expect(clock.now()).toBe(AT);
    clock.confirm();
    machine.passes(1);
    expect([clock.now(), clock.doubt]).toEqual([AT - 9 * MINUTE, null]);
  });

  it('a record from a minute ahead is no reason to doubt it', () => {
    const machine = computer();
    expect(new SystemClock(AT + MINUTE, machine.clocks).doubt).toBeNull();
    expect(new SystemClock(AT + MINUTE + 1, machine.clocks).doubt).not.toBeNull();
  });
});

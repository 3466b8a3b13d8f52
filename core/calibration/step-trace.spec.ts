import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hasBegunAnew, movedSince, ofThisStep, tooOld } from './step-trace.ts';

const BEGUN_MS = Date.UTC(2026, 10, 23, 14);

/** A minute a sample; clocks begin anew wherever a test says, at any time of their own, and run at any pace. */
function house(
  restarts: readonly { readonly at: number; readonly from: number; readonly pace: number }[],
  length: number,
) {
  let clock = { t: 1000, pace: 1 };
  let epoch = 'first';
  return Array.from({ length }, (_, i) => {
    const again = restarts.find((r) => r.at === i);
    if (again) {
      epoch = `again-${i}`;
      clock = { t: again.from, pace: again.pace };
    } else clock = { ...clock, t: clock.t + 60 * clock.pace };
    return { t: clock.t, epoch, atMs: BEGUN_MS + 60_000 * i, signal: i, temperatureC: 25 };
  });
}

describe('the trace of a step, whatever clocks do', () => {
  it('is what came since the step began, and of one epoch: for any restarts, and steps begun with and without a live value', () => {
    const restart = fc.record({
      at: fc.integer({ min: 1, max: 29 }),
      from: fc.integer({ min: 0, max: 100_000 }),
      pace: fc.integer({ min: 1, max: 40 }),
    });
    fc.assert(
      fc.property(
        fc.array(restart, { maxLength: 4 }),
        fc.integer({ min: 0, max: 29 }),
        fc.boolean(),
        (list, began, live) => {
          const all = house(list, 30);
          const now = all.at(-1)!;
          const kept = all.filter((s) => s.epoch === now.epoch);
          const step = {
            traceFrom: live ? all[began]!.t : null,
            traceEpoch: live ? all[began]!.epoch : null,
            traceSince: new Date(all[began]!.atMs).toISOString(),
          };
          const mine = ofThisStep(step, kept, now.epoch, 0).map((s) => s.signal);
          expect(mine).toEqual(kept.map((s) => s.signal).filter((i) => i >= began));
          expect(hasBegunAnew(step, now.epoch, kept[0]!.atMs)).toBe(all[began]!.epoch !== now.epoch);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('looks back before the step only where the clock is still the same', () => {
    const all = house([{ at: 10, from: 0, pace: 1 }], 20);
    const later = all.slice(10);
    const at = (i: number) => ({
      traceFrom: all[i]!.t,
      traceEpoch: all[i]!.epoch,
      traceSince: new Date(all[i]!.atMs).toISOString(),
    });
    expect(ofThisStep(at(15), later, later[0]!.epoch, 120).map((s) => s.signal)).toEqual([13, 14, 15, 16, 17, 18, 19]);
    expect(ofThisStep(at(5), later, later[0]!.epoch, 120)).toHaveLength(10);
  });
});

describe('how far a thermometer has moved since the run began', () => {
  const minutes = (temperatures: readonly number[]) =>
    temperatures.map((temperatureC, i) => ({ t: i, atMs: BEGUN_MS + 60_000 * i, signal: 0, temperatureC }));
  const trace = minutes([30, 24.6, 24.7, 21.2, 24.6]);
  it('is its range from then on; nothing is known where the trace begins later', () => {
    expect(movedSince(new Date(BEGUN_MS + 60_000).toISOString(), trace)).toBeCloseTo(3.5, 9);
    expect(movedSince(new Date(BEGUN_MS + 60_000).toISOString(), trace.slice(2))).toBeUndefined();
    expect(movedSince(new Date(BEGUN_MS).toISOString(), [])).toBeUndefined();
  });
});

describe('a live capture', () => {
  const at = '2026-11-23T14:02:00Z';
  it.each([
    ['live', '2026-11-23T14:01:45Z', null],
    ['live', '2026-11-23T14:01:00Z', 60],
    ['live', '2025-11-23T14:02:00Z', 365 * 86_400],
    ['live', '2026-11-23T14:02:02Z', null],
    ['live', '2026-11-23T14:03:00Z', -60],
    ['live', null, Infinity],
    ['live', undefined, Infinity],
    ['typed', null, null],
    ['trace', '2025-11-23T14:02:00Z', null],
  ])('%s, newest sample of %s: too old by that moment, %s s', (method, sampledAt, age) => {
    expect(tooOld({ method, sampledAt }, at, 15)).toBe(age);
  });
});

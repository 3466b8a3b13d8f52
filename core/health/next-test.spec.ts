import { describe, expect, it } from 'vitest';
import type { Cause } from '../sensor/befalls.ts';
import { familyOf } from '../families/registry.ts';
import { separatingTest } from './next-test.ts';

/** Whatever befalls electrodes, each once. */
const OF_ELECTRODES = [...new Set(['ph', 'orp', 'ion'].flatMap((id) => familyOf(id).befalls!.causes))];
const cause = (id: string): Cause => OF_ELECTRODES.find((c) => c.id === id)!;

describe('the next test', () => {
  it('there is one for every cause against a sound sensor, and for every pair, with what each outcome means', () => {
    for (const leader of OF_ELECTRODES)
      for (const second of [null, ...OF_ELECTRODES.filter((c) => c !== leader)]) {
        const test = separatingTest(leader, second);
        expect(test, `${leader.id} or ${second?.id}`).not.toBeNull();
        expect(test!.outcomes.length).toBeGreaterThanOrEqual(2);
        expect(new Set(test!.outcomes).size).toBe(test!.outcomes.length);
        // An outcome is one sentence: what is seen, a colon, and what it means.
        for (const outcome of test!.outcomes) expect(outcome).toMatch(/: .+\.$/);
      }
  });

  it('a bottle is ruled out first, whatever else it may be', () => {
    for (const leader of OF_ELECTRODES.filter((c) => c.id !== 'standard-wrong'))
      expect(separatingTest(leader, cause('standard-wrong'))!.what).toContain('another bottle');
  });

  it('what buffers cannot see is asked of a sample, once', () => {
    for (const [leader, second] of [
      ['junction-blocked', null],
      ['electrolyte-diluted', 'junction-blocked'],
      ['process-moved', null],
      ['junction-blocked', 'process-moved'],
    ] as const) {
      const other = second && cause(second);
      expect(separatingTest(cause(leader), other)!.procedure).toBe('sample');
      expect(separatingTest(cause(leader), other, true)).toBeNull();
    }
    // A sample that has spoken does not stand in the way of another kind of test.
    expect(separatingTest(cause('glass-aged'), null, true)!.procedure).toBe('buffers');
  });

  it('slope that is lost: cleaning tells dirt from age, a dry plug moisture from both', () => {
    expect(separatingTest(cause('glass-aged'), null)!.what).toContain('Clean it');
    expect(separatingTest(cause('glass-aged'), cause('connector-moist'))!.what).toContain('plug');
  });
});

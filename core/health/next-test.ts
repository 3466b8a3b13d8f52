import type { ServiceEvent } from '../drift/history.ts';
import type { Cause } from '../sensor/befalls.ts';

/** A test that tells two explanations apart, and what its outcomes would mean. */
export interface NextTest {
  readonly what: string;
  /** the procedure that starts it */
  readonly procedure: 'buffers' | 'sample';
  /** what is done to the sensor before it; null for nothing */
  readonly service: ServiceEvent['kind'] | null;
  readonly outcomes: readonly string[];
}

/**
 * The next test: the one that separates the two leading explanations.
 *
 * @param second null where the other explanation is a sound sensor
 * @param sampled a grab sample has spoken already: another one would say the same
 */
export function separatingTest(leader: Cause, second: Cause | null, sampled = false): NextTest | null {
  const test = testFor(leader, second);
  return sampled && test.procedure === 'sample' ? null : test;
}

function testFor(leader: Cause, second: Cause | null): NextTest {
  // Whatever else it may be: a bottle is the cheapest thing to be wrong, and to be ruled out.
  if (second?.undone) return second.test;
  if (leader.id === 'glass-aged' && second?.id === 'connector-moist') return second.test;
  if (leader.needs) return leader.test;
  // What buffers cannot see, a sample does.
  return second?.test.procedure === 'sample' ? second.test : leader.test;
}

import type { Cause, NextTest } from '../sensor/befalls.ts';

/**
 * The next test: the one that separates the two leading explanations.
 *
 * @param second null where the other explanation is a sound sensor
 * @param sampled whether a grab sample was taken already: a second would say the same
 */
export function separatingTest(leader: Cause, second: Cause | null, sampled = false): NextTest | null {
  const test = testFor(leader, second);
  return sampled && test.procedure === 'sample' ? null : test;
}

function testFor(leader: Cause, second: Cause | null): NextTest {
  // Whatever else it may be: a bottle is the cheapest thing to be wrong, and to be ruled out.
  if (second?.undone) return second.test;
  if (second && leader.after?.includes(second.id)) return second.test;
  if (leader.needs) return leader.test;
  // What buffers cannot see, a sample does.
  return second?.test.procedure === 'sample' && leader.test.procedure !== 'sample' ? second.test : leader.test;
}

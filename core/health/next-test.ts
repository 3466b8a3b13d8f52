import type { Cause } from './hypotheses.ts';

/** A test that tells two explanations apart, and what its outcomes would mean. */
export interface NextTest {
  readonly what: string;
  /** the procedure that starts it; null for what hands do without a run */
  readonly procedure: 'buffers' | 'sample' | null;
  readonly outcomes: readonly string[];
}

const CLEAN: NextTest = {
  what: 'Clean it and test again in both standards.',
  procedure: 'buffers',
  outcomes: [
    'Slope and response come back: it was dirt, and it goes on.',
    'Nothing changes: the glass itself has aged; plan a new one.',
  ],
};
const SAMPLE: NextTest = {
  what: 'Take a grab sample and hold it against the reading.',
  procedure: 'sample',
  outcomes: [
    'The sample differs though the standards agree: the junction.',
    'Sample and standards agree: the junction is clear.',
  ],
};
const SAMPLE_OF_WATER: NextTest = {
  what: 'Take a grab sample and hold it against the reading.',
  procedure: 'sample',
  outcomes: [
    'Sample and reading agree: the water has moved. Look at dosing and supply.',
    'The sample is where the water usually is: the sensor, or its junction.',
  ],
};
const BOTTLE: NextTest = {
  what: 'Test again in fresh standard from another bottle.',
  procedure: 'buffers',
  outcomes: ['It reads as before the last run: the last bottle was wrong.', 'It reads the same: it is the sensor.'],
};
const REFERENCE: NextTest = {
  what: 'Refill or exchange the reference electrolyte, then test again in both standards.',
  procedure: 'buffers',
  outcomes: [
    'The zero comes back: the electrolyte was diluted.',
    'The zero stays where it is: the reference is contaminated, or it is the membrane.',
  ],
};
const POLISH: NextTest = {
  what: 'Clean the platinum and test again in a redox standard.',
  procedure: 'buffers',
  outcomes: ['It answers fast again: it was a film.', 'It stays slow: look at the reference.'],
};
const NEW_TIP: NextTest = {
  what: 'Clean and condition the tip, then test again in both standards.',
  procedure: 'buffers',
  outcomes: ['The slope comes back: it was dirt.', 'The slope stays low: fit a new tip.'],
};
const DRY: NextTest = {
  what: 'Dry and clean the plug and the cable, then test again in both standards.',
  procedure: 'buffers',
  outcomes: ['The slope comes back: it was moisture.', 'The slope stays low: the glass.'],
};

const OF: Readonly<Record<string, NextTest>> = {
  'electrolyte-diluted': REFERENCE,
  'reference-contaminated': REFERENCE,
  'junction-blocked': SAMPLE,
  'glass-aged': CLEAN,
  'tip-worn': NEW_TIP,
  'platinum-dirty': POLISH,
  'connector-moist': DRY,
  'glass-cracked': CLEAN,
  'standard-wrong': BOTTLE,
  'process-moved': SAMPLE_OF_WATER,
};

/**
 * The next test: the one that separates the two leading explanations.
 *
 * @param second null where the other explanation is a sound sensor
 * @param sampled a grab sample has spoken already: another one would say the same
 */
export function separatingTest(leader: Cause, second: Cause | null, sampled = false): NextTest | null {
  const test = testFor(leader, second);
  return sampled && test?.procedure === 'sample' ? null : test;
}

function testFor(leader: Cause, second: Cause | null): NextTest | null {
  // Whatever else it may be: a bottle is the cheapest thing to be wrong, and to be ruled out.
  if (second?.id === 'standard-wrong') return BOTTLE;
  if (leader.id === 'glass-aged' && second?.id === 'connector-moist') return DRY;
  if (leader.id === 'process-moved' || second?.id === 'process-moved') return SAMPLE_OF_WATER;
  if (second?.id === 'junction-blocked') return SAMPLE;
  return OF[leader.id] ?? null;
}

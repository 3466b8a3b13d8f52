import type { Fault } from '../physics/fault.ts';

/** It stands in a sump 6 °C colder than 25 at severity 1. Shares nothing with the core. */
export const THERMOMETER_ELSEWHERE: Fault = {
  name: 'thermometer elsewhere',
  shows: 'the temperature does not move when the probe changes cups',
  on: (t, severity) => ({ ...t, thermometer: { ...t.thermometer, elsewhereC: 25 - 6 * severity } }),
};

import type { Fault } from '../physics/fault.ts';

/** 15 mV of amplitude at severity 1; what is seen is its beat with the sampling. Shares nothing with the core. */
export const MAINS_HUM: Fault = {
  name: 'mains hum',
  shows: 'swings to and fro at a steady beat, in every liquid',
  on: (t, severity) => ({ ...t, input: { ...t.input, humMv: t.input.humMv + 15 * severity } }),
};

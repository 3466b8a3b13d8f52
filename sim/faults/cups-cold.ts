import type { Fault } from '../physics/fault.ts';

/** 12 °C at severity 1. Shares nothing with the core. */
export const CUPS_COLD: Fault = {
  name: 'cups cold',
  shows: 'the cup is colder than the water, and warms while one waits',
  on: (t, severity) => ({ ...t, cupsOffC: t.cupsOffC - 12 * severity }),
};

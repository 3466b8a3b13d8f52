import type { Fault } from '../physics/fault.ts';

/** Whatever the severity: an open input. Shares nothing with the core. */
export const CABLE_PULLED: Fault = {
  name: 'cable pulled',
  shows: 'floats anywhere, follows nobody’s hand',
  on: (t, severity) => ({ ...t, input: { ...t.input, pulled: t.input.pulled || severity > 0 } }),
};

import type { Fault } from '../physics/fault.ts';

/** Nothing of the sensor: the channel is set up otherwise. Shares nothing with the core. */
export const POLES_EXCHANGED: Fault = {
  name: 'poles exchanged',
  shows: 'reads as on the other side of zero, in every cup',
  on: (t, severity) => (severity > 0 ? { ...t, input: { ...t.input, turned: true } } : t),
};

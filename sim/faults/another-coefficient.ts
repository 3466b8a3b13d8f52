import type { Fault } from '../physics/fault.ts';

/** Nothing of the sensor: the channel is set up otherwise. Shares nothing with the core. */
export const ANOTHER_COEFFICIENT: Fault = {
  name: 'another coefficient',
  shows: 'right at 25 °C, and off by a share that grows away from it',
  on: (t, severity) => (severity > 0 && t.cell ? { ...t, cell: { ...t.cell, overPerC: 0.02 * severity } } : t),
};

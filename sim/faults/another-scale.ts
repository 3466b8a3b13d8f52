import type { Fault } from '../physics/fault.ts';

/** Nothing of the sensor: the channel is set up otherwise. Shares nothing with the core. */
export const ANOTHER_SCALE: Fault = {
  name: 'another scale',
  shows: 'every reading of the cell is short by the same share',
  on: (t, severity) => (severity > 0 && t.cell ? { ...t, cell: { ...t.cell, scale: severity > 0.5 ? 0.5 : 0.64 } } : t),
};

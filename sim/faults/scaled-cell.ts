import type { Fault } from '../physics/fault.ts';

/** A third of the plates is covered at severity 1. Shares nothing with the core. */
export const SCALED_CELL: Fault = {
  name: 'scaled cell',
  shows: 'the cell reads low by the same share in every standard',
  on: (t, severity) => ({
    ...t,
    cell: t.cell && { ...t.cell, scaled: Math.min(0.9, t.cell.scaled + 0.33 * severity) },
  }),
};

import type { Fault } from '../physics/fault.ts';

/** The end comes down to 200 µS at severity 1, ten times that for each tenth less. Shares nothing with the core. */
export const WRONG_RANGE: Fault = {
  name: 'wrong range',
  shows: 'the reading stops at the end of its range whatever is in the cup',
  on: (t, severity) => ({
    ...t,
    cell: t.cell && { ...t.cell, mostUs: Math.min(t.cell.mostUs, 200 * 10 ** (10 * (1 - severity))) },
  }),
};

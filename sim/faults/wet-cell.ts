import type { Fault } from '../physics/fault.ts';

/** 40 µS of film at severity 1. Shares nothing with the core. */
export const WET_CELL: Fault = {
  name: 'wet cell',
  shows: 'air does not read zero, and falls as the cell dries',
  on: (t, severity) => ({ ...t, cell: t.cell && { ...t.cell, filmUs: t.cell.filmUs + 40 * severity } }),
};

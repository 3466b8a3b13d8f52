import type { Fault } from '../physics/fault.ts';

/** A hole: current of its own, and more of everything. Shares nothing with the core. */
export const MEMBRANE_TORN: Fault = {
  name: 'membrane torn',
  shows: 'an oxygen membrane gives current without oxygen, and too much with it',
  on: (t, severity) => ({
    ...t,
    oxygen:
      t.oxygen?.kind === 'membrane'
        ? { ...t.oxygen, zeroNa: t.oxygen.zeroNa + 15 * severity, slopeNa: t.oxygen.slopeNa * (1 + 0.6 * severity) }
        : t.oxygen,
  }),
};

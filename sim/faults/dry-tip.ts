import type { Fault } from '../physics/fault.ts';

/** The membrane answers forty times slower at severity 1. Shares nothing with the core. */
export const DRY_TIP: Fault = {
  name: 'dry tip',
  shows: 'hardly moves, and is noisy',
  on: (t, severity) => ({ ...t, dry: Math.min(1, t.dry + severity) }),
};

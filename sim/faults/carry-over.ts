import type { Fault } from '../physics/fault.ts';

/** Twenty times the usual film at severity 1. Shares nothing with the core. */
export const CARRY_OVER: Fault = {
  name: 'carry-over',
  shows: 'the reading is pulled toward the last cup and creeps back',
  on: (t, severity) => ({ ...t, sticky: t.sticky + 20 * severity }),
};

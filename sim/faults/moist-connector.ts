import type { Fault } from '../physics/fault.ts';

/** Insulation falls to 100 MΩ at severity 1: a divider with the glass. Shares nothing with the core. */
export const MOIST_CONNECTOR: Fault = {
  name: 'moist connector',
  shows: 'the slope is short by a share that grows in the cold, where the glass resists more',
  on: (t, severity) => ({ ...t, input: { ...t.input, insulationMohm: 100 / Math.max(severity, 1e-6) } }),
};

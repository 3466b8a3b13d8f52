import type { Fault } from '../physics/fault.ts';

/** Nothing flows at severity 1. Shares nothing with the core. */
export const LOW_FLOW: Fault = {
  name: 'low flow',
  shows: 'chlorine reads low in the line, and right in a stirred cup',
  on: (t, severity) => ({ ...t, chlorine: t.chlorine && { ...t.chlorine, flow: t.chlorine.flow * (1 - severity) } }),
};

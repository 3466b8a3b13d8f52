import type { Fault } from '../physics/fault.ts';

/** 0.5 pH at severity 1. Shares nothing with the core. */
export const PROCESS_MOVED: Fault = {
  name: 'process moved',
  shows: 'the water reads differently and the standards as ever: it is not the probe',
  on: (t, severity) => ({ ...t, processOffPh: t.processOffPh + 0.5 * severity }),
};

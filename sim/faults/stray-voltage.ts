import type { Fault } from '../physics/fault.ts';

/** 80 mV at severity 1, only where the water touches the plant. Shares nothing with the core. */
export const STRAY_VOLTAGE: Fault = {
  name: 'stray voltage',
  shows: 'jumps on leaving the water, and is gone in a cup',
  on: (t, severity) => ({ ...t, input: { ...t.input, strayMv: t.input.strayMv + 80 * severity } }),
};

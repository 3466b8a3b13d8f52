import type { Fault } from '../physics/fault.ts';

/** 30 mV of wander at severity 1 below 10 µS/cm. Shares nothing with the core. */
export const STATIC: Fault = {
  name: 'static',
  shows: 'wanders in pure water and nowhere else',
  on: (t, severity) => ({ ...t, input: { ...t.input, staticMv: t.input.staticMv + 30 * severity } }),
};

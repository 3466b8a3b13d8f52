import type { Fault } from '../physics/fault.ts';

/** Sits fast, unlike the one that a wiggle frees. Shares nothing with the core. */
export const BUBBLE: Fault = {
  name: 'bubble',
  shows: 'restless and shifted; a cell reads low; tapping does not help',
  on: (t, severity) => ({ ...t, bubble: Math.min(1, t.bubble + 0.8 * severity) }),
};

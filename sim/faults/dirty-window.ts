import type { Fault } from '../physics/fault.ts';

/** A third of the light is lost at severity 1. Shares nothing with the core. */
export const DIRTY_WINDOW: Fault = {
  name: 'dirty window',
  shows: 'optical nitrate reads high by the same amount in every water',
  on: (t, severity) => ({
    ...t,
    optics: t.optics && { ...t.optics, dirt: Math.min(0.9, t.optics.dirt + 0.33 * severity) },
  }),
};

import { everyElectrode, type Fault } from '../physics/fault.ts';

/** A quarter of the slope is lost at severity 1. Shares the words zero and slope with the core, no formula. */
export const GLASS_AGED: Fault = {
  name: 'glass aged',
  shows: 'the slope falls and the response slows',
  on: (t, severity) =>
    everyElectrode(t, (e) => ({
      slope: e.slope * (1 - 0.25 * severity),
      fastSeconds: e.fastSeconds * (1 + 2 * severity),
      slowSeconds: e.slowSeconds * (1 + 3 * severity),
      slowShare: Math.min(0.5, e.slowShare * (1 + 2 * severity)),
      megohm: e.megohm * (1 + 3 * severity),
    })),
};

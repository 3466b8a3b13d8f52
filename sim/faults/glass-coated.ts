import { everyElectrode, type Fault } from '../physics/fault.ts';

/** A film on glass and tips: slower by three times, and a little of the slope, at severity 1. Shares no formula with the core. */
export const GLASS_COATED: Fault = {
  name: 'glass coated',
  shows: 'the response slows, the slope falls a little, and both come back when it is cleaned',
  on: (t, severity) =>
    everyElectrode(t, (e) => ({
      ...(severity > 0 ? { bare: e.bare ?? e } : {}),
      slope: e.slope * (1 - 0.045 * severity),
      fastSeconds: e.fastSeconds * (1 + 2.5 * severity),
      slowSeconds: e.slowSeconds * (1 + 2 * severity),
      slowShare: Math.min(0.5, e.slowShare * (1 + severity)),
      megohm: e.megohm * (1 + 0.8 * severity),
    })),
};

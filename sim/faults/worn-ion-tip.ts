import { everyElectrode, type Fault } from '../physics/fault.ts';

/** Three tenths of the slope are gone at severity 1. Shares the word slope with the core, no formula. */
export const WORN_ION_TIP: Fault = {
  name: 'worn ion tip',
  shows: 'the gap between the low and the high standard shrinks below 40 mV',
  on: (t, severity) =>
    everyElectrode(t, (e) => ({
      slope: e.slope * (1 - 0.3 * severity),
      slowShare: Math.min(0.6, e.slowShare + 0.2 * severity),
    })),
};

import type { Fault } from '../physics/fault.ts';

/** What is poured is thinned with a fifth of water, half a pH off, and 40 mV if it is a redox standard, at severity 1. Shares nothing with the core. */
export const BAD_LOT: Fault = {
  name: 'bad lot',
  shows: 'every probe is off in this standard by the same amount, and right in others',
  on: (t, severity) => ({
    ...t,
    lotOffPh: t.lotOffPh + 0.5 * severity,
    lotOffMv: t.lotOffMv + 40 * severity,
    lotShare: t.lotShare * (1 - 0.2 * severity),
  }),
};

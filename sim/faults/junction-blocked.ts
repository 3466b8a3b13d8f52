import { everyElectrode, type Fault } from '../physics/fault.ts';

/** 25 mV in samples at severity 1, none in standards. Shares nothing with the core. */
export const JUNCTION_BLOCKED: Fault = {
  name: 'junction blocked',
  shows: 'right in buffers, wrong in the water; slow, and the reference impedance is high',
  on: (t, severity) => ({
    ...everyElectrode(t, (e) => ({ slowSeconds: e.slowSeconds * (1 + 4 * severity) })),
    reference: {
      ...t.reference,
      blockedMv: t.reference.blockedMv + 25 * severity,
      junctionKohm: t.reference.junctionKohm * (1 + 20 * severity),
    },
  }),
};

import type { Fault } from '../physics/fault.ts';

/** Foreign salts creep in with an hour’s time constant, 40 mV at severity 1. Shares nothing with the core. */
export const REFERENCE_CONTAMINATED: Fault = {
  name: 'reference contaminated',
  shows: 'the zero creeps away within minutes to hours and does not come back',
  on: (t, severity, seconds) => ({
    ...t,
    reference: {
      ...t.reference,
      contaminationMv: t.reference.contaminationMv + 40 * severity * -Math.expm1(-seconds / 3600),
    },
  }),
};

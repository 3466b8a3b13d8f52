import type { Fault } from '../physics/fault.ts';

/** A thick film at severity 1. Shares nothing with the core. */
export const MEMBRANE_FOULED: Fault = {
  name: 'membrane fouled',
  shows: 'oxygen sensors answer slowly and read low; a membrane lower than a cap',
  on: (t, severity) => ({
    ...t,
    oxygen: t.oxygen && { ...t.oxygen, fouled: Math.min(1, t.oxygen.fouled + severity) },
  }),
};

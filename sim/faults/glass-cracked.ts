import { everyElectrode, type Fault } from '../physics/fault.ts';

/** Shares nothing with the core. */
export const GLASS_CRACKED: Fault = {
  name: 'glass cracked',
  shows: 'all buffers read alike, near zero, and the membrane’s impedance is gone',
  on: (t, severity) =>
    everyElectrode(t, (e) => ({ slope: e.slope * (1 - 0.97 * severity), megohm: e.megohm * 0.002 ** severity })),
};

import type { Fault } from '../physics/fault.ts';

/** At severity 1 a twentieth of the salt is left. The core knows dilution only as a figure of science, −27 mV for 3 to 1 mol/kg; here the potential follows from the activity of chloride. */
export const ELECTROLYTE_DILUTED: Fault = {
  name: 'electrolyte diluted',
  shows: 'all sensors on the reference read lower by the same mV, in buffers and in samples',
  on: (t, severity) => ({ ...t, reference: { ...t.reference, kcl: t.reference.kcl * 0.05 ** severity } }),
};

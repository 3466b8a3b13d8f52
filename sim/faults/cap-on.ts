import type { Fault } from '../physics/fault.ts';

/** Whatever the severity: the membrane meets its storage solution. Shares nothing with the core. */
export const CAP_ON: Fault = {
  name: 'cap on',
  shows: 'every cup reads the same',
  on: (t, severity) => ({ ...t, capped: t.capped || severity > 0 }),
};

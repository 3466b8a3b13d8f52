import type { Fault } from '../physics/fault.ts';

/** The dye has lost a fifth of its lifetime at severity 1, over so many hours of light. Shares nothing with the core. */
export const CAP_FADED: Fault = {
  name: 'cap faded',
  shows: 'an optical oxygen sensor sees oxygen where there is none, and is quenched less',
  on: (t, severity) => ({
    ...t,
    oxygen:
      t.oxygen?.kind === 'cap'
        ? { ...t.oxygen, faded: t.oxygen.faded + 0.2 * severity, quenching: t.oxygen.quenching * (1 - 0.25 * severity) }
        : t.oxygen,
  }),
};

import type { Fault } from './fault.ts';
import { FRESH_KCL } from './reference.ts';

/** Of what foreign salts have shifted a reference by, so much is in its silver wire and not in the liquid. Common practice, no source. */
const ON_THE_WIRE = 0.8;

/** What an operator does to a probe for its good. The same form as a fault: from a moment on, the truth is another. */
export const DEEDS: Readonly<Record<'clean' | 'refill' | 'soak' | 'dry the plug', Fault>> = {
  clean: {
    name: 'clean',
    shows: 'scale, dirt, growth and bubbles are gone, and a blocked junction is four fifths free',
    on: (t) => ({
      ...t,
      bubble: 0,
      cell: t.cell && { ...t.cell, scaled: 0 },
      optics: t.optics && { ...t.optics, dirt: 0 },
      oxygen: t.oxygen && { ...t.oxygen, fouled: 0 },
      reference: {
        ...t.reference,
        blockedMv: 0.2 * t.reference.blockedMv,
        junctionKohm: Math.min(t.reference.junctionKohm, 10),
      },
      electrodes: Object.fromEntries(
        Object.entries(t.electrodes).map(([k, { bare, ...e }]) => {
          const is = bare ?? e;
          return [k, { ...is, slowSeconds: 0.8 * is.slowSeconds }];
        }),
      ),
    }),
  },
  refill: {
    name: 'refill',
    shows: 'the reference has fresh electrolyte; what foreign ions have made of its wire stays',
    on: (t) => ({
      ...t,
      reference: { ...t.reference, kcl: FRESH_KCL, contaminationMv: ON_THE_WIRE * t.reference.contaminationMv },
    }),
  },
  'dry the plug': {
    name: 'dry the plug',
    shows: 'plug and lead insulate as new ones do',
    on: (t) => ({ ...t, input: { ...t.input, insulationMohm: Infinity } }),
  },
  soak: {
    name: 'soak',
    shows: 'a dry tip comes back over half an hour; the cap is off',
    on: (t, _, seconds) => ({ ...t, capped: false, dry: t.dry * Math.exp(-seconds / 1800) }),
  },
};

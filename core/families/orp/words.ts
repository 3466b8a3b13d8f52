import type { BenchWords } from '../../sensor/words.ts';
import { ELECTRODE_BENCH } from '../../kin/electrodes.ts';

/** Facts of the trade: common practice, no source. */
export const REDOX_BENCH: BenchWords = {
  ...ELECTRODE_BENCH,
  place: ({ name }, previous) => ({
    title: previous ? `Rinse, blot, into fresh ${name}` : `Into fresh ${name}`,
    text: 'Pour fresh, at the temperature of the water. The band of metal must be fully under, and the reference too.',
    caution: 'Gloves and eye protection. Cyanoferrate standards never meet strong acid. Never pour used standard back.',
  }),
  settle: ({ name }) => ({
    title: `Settle in ${name}`,
    text: 'In a standard ORP settles within a minute or two; in dilute water it may take hours. Let it be.',
  }),
  clean: {
    title: 'Clean the metal',
    text: 'A soft brush or fine abrasive paste on the metal only, then rinse and a few minutes in KCl storage solution.',
    caution: 'Eye protection and gloves for cleaners. Never mix cleaners.',
  },
};

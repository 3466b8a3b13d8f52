import { SITE_FIRST, type BenchWords } from '../../sensor/words.ts';
import { ELECTRODE_BENCH } from '../../kin/electrodes.ts';

/** Facts of the trade: common practice, no source. */
export const TIP_BENCH: BenchWords = {
  ...ELECTRODE_BENCH,
  takeOut: {
    title: 'Probe out, rinsed, blotted',
    text: 'pH, ORP and conductivity on the same reference come first. Rinse with DI water and blot; do not touch the tip.',
    caution: `A new tip hydrates for a day before its first run. ${SITE_FIRST}`,
  },
  place: ({ name }) => ({
    title: `Rinse with ${name}, refill`,
    text: `Rinse the cup with a little ${name}, discard it, then refill so that both the ion tip and the reference are covered.`,
    caution: 'Never pour used standard back. Gloves and eye protection.',
  }),
  settle: ({ name }) => ({
    title: `Settle in ${name}`,
    text: 'About five minutes. Both standards of a pair within 0.5 °C of each other, or the pair is void.',
  }),
  clean: {
    title: 'Rinse and soak the tip',
    text: 'Rinse with DI water and soak the tip in its low standard for half an hour. A tip is not brushed and not wiped.',
  },
};

import { SITE_FIRST, type BenchWords } from '../../sensor/words.ts';
import { EVERY_BENCH } from '../../kin/bench.ts';

/** Facts of the trade: common practice, no source. */
export const OPTICAL_BENCH: BenchWords = {
  ...EVERY_BENCH,
  takeOut: {
    title: 'Shut the inlet, drain, open',
    text: 'Shut the inlet and drain before the housing is opened. Do not clean the windows yet: the first look is the as-found one.',
    caution: `Isolate and depressurise first. Do not look into ultraviolet light. Mind seals and alignment. ${SITE_FIRST}`,
  },
  place: ({ name }) => ({
    title: `Into fresh ${name}, in the dark`,
    text: 'Bring the cold standard to temperature first. Shade the cup from light. Check that bottle and channel speak of the same: as N, or as NO3.',
  }),
  settle: ({ name }) => ({
    title: `Settle in ${name}`,
    text: 'Wait until reading and temperature both stand still. Three attempts are normal.',
  }),
  repeat: {
    first: {
      title: 'Move it, settle to the same number',
      text: 'Lift it once so that a bubble leaves the windows, and let it settle again.',
    },
    again: {
      title: 'They differ: move it once more',
      text: 'The last two settlings do not agree, as with a bubble on the windows. Lift it, settle again: two in a row must agree.',
    },
  },
  clean: {
    title: 'Clean the windows',
    text: 'Lens tissue and the cleaner that the data sheet names; check the air-clean line. Rinse well.',
    caution: 'Never mix cleaners.',
  },
};

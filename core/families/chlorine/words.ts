import { SITE_FIRST, type BenchWords, type Words } from '../../sensor/words.ts';
import { EVERY_BENCH } from '../../kin/bench.ts';

const sample = (what: string): Words => ({
  title: `Draw a sample: ${what}`,
  text: 'Draw it where the sensor measures, at the moment at which its reading is noted. Zero the photometer on the blank, reagent in, read promptly.',
  caution: 'Gloves and eye protection for reagents. Hot and chemical lines under the site’s permit.',
});

/** Facts of the trade: common practice, no source. */
export const CHLORINE_BENCH: BenchWords = {
  ...EVERY_BENCH,
  takeOut: {
    title: 'Flow and membrane',
    text: 'The sensor stays in its flow cell, at its right flow. Look for bubbles under the membrane.',
    caution: `Disinfectant lines: the site’s rules come first. ${SITE_FIRST}`,
  },
  place: ({ name }) => sample(name),
  settle: ({ name }) => ({
    title: `Reading at ${name}`,
    text: 'The reading at the moment of sampling is what is paired with the photometer’s value.',
  }),
  repeat: null,
  clean: {
    title: 'Membrane and electrolyte',
    text: 'Change the membrane cap and its electrolyte, then let it run in for the time its data sheet says.',
  },
};

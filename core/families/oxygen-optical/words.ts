import type { BenchWords } from '../../sensor/words.ts';
import { oxygenBench } from '../oxygen-membrane/words.ts';

/** Facts of the trade: common practice, no source. */
export const CAP_BENCH: BenchWords = {
  ...oxygenBench('cap'),
  clean: {
    title: 'Clean the cap',
    text: 'Soft wet tissue, mild soap where growth sits; no alcohol, no scratching: the black layer is the sensor. A cap that is past its hours is replaced, with its coefficients where it brings its own.',
    caution: 'Keep the open cap out of the sun, which bleaches its dye.',
  },
};

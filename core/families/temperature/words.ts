import { SITE_FIRST, type BenchWords } from '../../sensor/words.ts';
import { EVERY_BENCH } from '../../kin/bench.ts';

/** Facts of the trade: common practice, no source. */
export const THERMOMETER_BENCH: BenchWords = {
  ...EVERY_BENCH,
  takeOut: {
    title: 'Two thermometers beside the probe',
    text: 'Leave the probe where it is. Put two independent thermometers beside it and wait two to three minutes each: two that disagree by more than their accuracy decide nothing.',
    caution: `This thermometer may compensate other channels, and move what they control. ${SITE_FIRST}`,
  },
  place: ({ name }) => ({
    title: `Beside ${name}`,
    text: 'Probe and thermometer close together, in moving water, away from heaters.',
  }),
  settle: () => ({ title: 'Settle beside the thermometer', text: 'Both must stand still together.' }),
  repeat: null,
  clean: {
    title: 'Check cable and place',
    text: 'Look for a loose plug, a kinked cable, a sheath full of water. Then compare again.',
  },
};

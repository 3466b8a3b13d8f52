import { SITE_FIRST, type BenchWords, type Words } from '../sensor/words.ts';

/** What is the same work with every sensor. Facts of the trade: common practice, no source. */
export const EVERY_BENCH: Pick<BenchWords, 'hold' | 'verdict' | 'adjust' | 'readBack' | 'back'> = {
  hold: (controls: string): Words => ({
    title: `Put ${controls} on hold`,
    text: 'Set it on hold at the controller, then confirm here. Out of the water the probe reads nonsense, and the controller would act on it.',
    caution: `A probe pulled while it still controls a doser means an overdose. ${SITE_FIRST}`,
  }),
  verdict: { title: 'Verdict', text: 'What the numbers say to do, and why. You decide.' } satisfies Words,
  adjust: {
    title: 'Adjust the channel',
    text: 'These figures go into the channel. The measurement stays as it was found.',
  },
  readBack: (name: string): Words => ({
    title: `Read back in ${name}`,
    text: 'Same cup, new figures: the channel should now show the standard’s value.',
  }),
  back: (controls: string): Words => ({
    title: controls ? 'Back in the water, release the hold' : 'Back in the water',
    text: controls
      ? `Rinse, put the probe back, wait until it reads the water again, then release the hold on ${controls}.`
      : 'Rinse and put the probe back. Discard the used buffer.',
    caution: controls ? 'A hold that nobody releases is a tank that nobody doses.' : undefined,
  }),
};

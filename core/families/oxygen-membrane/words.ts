import { SITE_FIRST, type BenchWords, type Words } from '../../sensor/words.ts';
import { EVERY_BENCH } from '../../kin/bench.ts';

const GLOVES = 'Gloves and eye protection for sulfite. It eats oxygen: none of it may reach animals.';

/**
 * The words of every sensor of dissolved oxygen. Facts of the trade: common practice, no source.
 *
 * @param face what is touched by nothing: "membrane", "cap"
 */
export const oxygenBench = (face: string): Omit<BenchWords, 'clean'> => ({
  ...EVERY_BENCH,
  takeOut: {
    title: 'Out, rinsed, dabbed dry',
    text: `Rinse it and dab the ${face} dry with a soft tissue. Do not wipe it, and do not clean it yet: the first look is the as-found one.`,
    caution: `Aeration goes on while the sensor is out: stocked water is never left without it. Keep plugs and wet hands away from mains. ${SITE_FIRST}`,
  },
  place: ({ name, nominal, inAir }, previous): Words =>
    inAir
      ? {
          title: `Into ${name}`,
          text: `${previous ? `Rinse ${previous.name} off well first: a film of it eats what should be measured. ` : ''}Hang it over water or a wet sponge in a vessel that is not tight, no drop on the ${face}, out of the sun. Air and sensor as warm as each other.`,
        }
      : {
          title: `Into fresh ${name}`,
          text:
            nominal === 0
              ? 'Sulfite in water, mixed today, filled to the brim: no bubble under the sensor.'
              : `${previous ? `Rinse ${previous.name} off well first: a drop of it eats oxygen. ` : ''}Bubble air through for an hour at an even temperature, then stir gently and let no bubble sit on the ${face}.`,
          ...(nominal === 0 ? { caution: GLOVES } : {}),
        },
  settle: ({ name }) => ({
    title: `Settle in ${name}`,
    text: 'Wait until reading and temperature both stand still. It goes down slower than it comes up.',
  }),
  repeat: {
    first: {
      title: 'Move it, settle to the same number',
      text: 'Lift and swirl it once so that a bubble leaves, and let it settle again.',
    },
    again: {
      title: 'They differ: move it once more',
      text: `The last two settlings do not agree, as with a bubble on the ${face}. Swirl, settle again: two in a row must agree.`,
    },
  },
});

export const MEMBRANE_BENCH: BenchWords = {
  ...oxygenBench('membrane'),
  clean: {
    title: 'Membrane and electrolyte',
    text: 'Wipe growth off with a soft wet tissue. If that is not enough: a new membrane and fresh electrolyte, no bubble behind it, then let it run in for as long as its data sheet says.',
    caution: 'Gloves and eye protection: the electrolyte may be caustic.',
  },
};

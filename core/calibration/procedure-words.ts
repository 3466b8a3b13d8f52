import { SITE_FIRST, type Words } from '../sensor/words.ts';
import type { Surrounding } from './events.ts';

/** Words of the steps that depend on the sensor's state, the loop's surroundings and the procedure, not on the family. */

const ISOLATE: Words = {
  title: 'Isolate, depressurise, drain',
  text: 'Shut the valves on both sides, let the pressure go, drain, and see that it stays drained.',
  caution: `Hot and chemical lines under the site’s permit; eye protection. ${SITE_FIRST}`,
};

const HIGH_PURITY: Words = {
  title: 'Flow, earth, no air',
  text: 'Steady flow of 50 to 100 mL/min through an earthed, low-volume metal cell; short metal or dense tubing. At low flow the air’s CO2 leaks in, and plastic tubing makes potentials of its own: such errors are not calibrated away.',
  caution: `A flowing reference and a solution ground belong to pH below 10 µS/cm. ${SITE_FIRST}`,
};

export const STOCKED = 'Stocked water: rinse before it goes back; sanitiser and cleaner never reach the animals.';

export const CHECK: Words = {
  title: 'Sound, or calibrate?',
  text: 'The first standard alone says whether the others are worth their cups.',
};

export const PLUG = {
  place: {
    title: 'Shorting plug on the input',
    text: 'Unplug the probe and put the shorting plug on its connector: what is shown now is the instrument’s own.',
    caution: `The connector may sit at the back of a live panel: isolate it, or let a qualified person do it. Dry hands. ${SITE_FIRST}`,
  } satisfies Words,
  settle: {
    title: 'Read the shorted input',
    text: 'It should show 0 within a few millivolts. Then the probe goes back on its connector.',
  } satisfies Words,
};

export const SAMPLE = {
  draw: {
    title: 'Draw the sample, keep the reading',
    text: 'Let the tap run, rinse the bottle with the water itself, fill it where the sensor measures. Keep the reading at that moment: what the lab finds is held against it, however late it comes.',
    caution: `Hot, pressurised and chemical lines under the site’s permit; gloves and eye protection. ${SITE_FIRST}`,
  } satisfies Words,
  enter: {
    title: 'What did the lab find?',
    text: 'The value in its own unit, with the ± that the lab or the kit states, and how warm it was when it was measured: near the temperature of the water.',
    caution: 'Two kits that disagree decide nothing. Gloves and eye protection for reagents.',
  } satisfies Words,
  back: {
    title: 'Finish',
    text: 'The sensor never left the water. Discard sample and reagent as the local rules say.',
  },
};

export const THERMOMETERS = {
  enter: {
    title: 'Read both thermometers',
    text: 'Each after two or three minutes beside the probe, with its own accuracy. Two that disagree by more than that decide nothing: find out which is wrong first.',
  } satisfies Words,
  back: {
    title: 'Take the thermometers away',
    text: 'Whatever this probe compensates moves with it: look at those channels once more.',
  },
};

const UNPLUG = 'Terminals may be live: isolate, or let a qualified person do it. Wet hands and mains do not mix.';
export const BOXES = {
  isolate: {
    title: 'Sensor off its terminals',
    text: 'Note which wire sits where, take the sensor off, and put the first box on.',
    caution: `${UNPLUG} ${SITE_FIRST}`,
  } satisfies Words,
  place: (name: string, verify: boolean): Words => ({
    title: `Box: ${name}`,
    text: verify ? 'Only to be looked at: this point is not adjusted.' : 'This point may be adjusted.',
    caution: UNPLUG,
  }),
  settle: (name: string): Words => ({ title: `Read at ${name}`, text: 'A box is steady at once.' }),
  left: (name: string): Words => ({ title: `As left at ${name}`, text: 'The same box once more, after the trim.' }),
  adjust: {
    title: 'Trim the transmitter',
    text: 'At the points that may be adjusted, as its manual says. The others are only looked at.',
  } satisfies Words,
  back: (controls: string): Words => ({
    title: controls ? 'Sensor back on its terminals, release the hold' : 'Sensor back on its terminals',
    text: `Every wire where it was, screws tight, cover shut. The reading must be the water’s again${controls ? `, then release the hold on ${controls}` : ''}.`,
    caution: controls ? 'A hold that nobody releases is a tank that nobody doses.' : UNPLUG,
  }),
};

/** What the surroundings add before the sensor leaves its place. */
export const AROUND: readonly (readonly [Surrounding, string, Words])[] = [
  ['high-purity', 'flow', HIGH_PURITY],
  ['pressurised', 'isolate', ISOLATE],
];

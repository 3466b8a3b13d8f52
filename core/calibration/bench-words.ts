import { PH_BENCH, SITE_FIRST, type BenchWords, type Words } from '../sensor/words.ts';

/**
 * The words of every other family's step sheet: what differs from pH is said anew, the rest is the same work.
 * Facts of the trade: common practice, no source.
 */

const CELL: BenchWords = {
  ...PH_BENCH,
  takeOut: {
    title: 'Cell out, rinsed, shaken dry',
    text: 'Rinse with RO or DI water and shake. Never touch the face of the cell with fingers, and do not clean it yet: the first look is the as-found one.',
    caution: `Pressurised line: isolate, depressurise, drain first. Keep connectors and wet hands away from mains. ${SITE_FIRST}`,
  },
  place: (name, previous) =>
    name.startsWith('air')
      ? {
          title: 'Into the air, bone dry',
          text: 'Blow the cell out and let it stand: a drop between the electrodes is a false zero. Hold it clear of everything.',
        }
      : {
          title: `Into fresh ${name}`,
          text: `${previous && !previous.startsWith('air') ? `Rinse with a little ${name}, discard it, then fill afresh. ` : ''}Float the standard beside the thermometer until it is as warm as the water. Vent holes up, at an angle; no water of the process may leak in.`,
          caution: 'Plastic cup or sachet, no force. Never pour used standard back.',
        },
  settle: (name) =>
    name.startsWith('air')
      ? {
          title: 'Settle in air',
          text: 'It must fall to nothing and stay there. If it creeps, the cell is still wet: blow it out again.',
        }
      : {
          title: `Settle in ${name}`,
          text: 'Tap the bubbles out, then let it be. Bubbles and mains cables beside the lead are the usual false alarms.',
        },
  wiggle: {
    title: 'Tap, settle to the same number',
    text: 'Tap the cell and let it settle again: a bubble shows as a second, higher number.',
  },
  wiggleAgain: {
    title: 'They differ: tap once more',
    text: 'The last two settlings do not agree, as with a bubble in the cell. Tap, settle again: two in a row must agree.',
  },
  clean: {
    title: 'Clean the cell',
    text: 'Soft brush and mild detergent for growth, a short soak in a mild acid meant for cells for scale, then rinse well. Fresh standard for the second look, before the cell is blamed.',
    caution: 'Eye protection and gloves for acid. Never mix cleaners. Discard used solution as the local rules say.',
  },
};

const REDOX: BenchWords = {
  ...PH_BENCH,
  place: (name, previous) => ({
    title: previous ? `Rinse, blot, into fresh ${name}` : `Into fresh ${name}`,
    text: 'Pour fresh, at the temperature of the water. The band of metal must be fully under, and the reference too.',
    caution: 'Gloves and eye protection. Cyanoferrate standards never meet strong acid. Never pour used standard back.',
  }),
  settle: (name) => ({
    title: `Settle in ${name}`,
    text: 'In a standard ORP settles within a minute or two; in dilute water it may take hours. Let it be.',
  }),
  clean: {
    title: 'Clean the metal',
    text: 'A soft brush or fine abrasive paste on the metal only, then rinse and a few minutes in KCl storage solution.',
    caution: 'Eye protection and gloves for cleaners. Never mix cleaners.',
  },
};

const ION_TIP: BenchWords = {
  ...PH_BENCH,
  takeOut: {
    title: 'Probe out, rinsed, blotted',
    text: 'pH, ORP and conductivity on the same reference come first. Rinse with DI water and blot; do not touch the tip.',
    caution: `A new tip hydrates for a day before its first run. ${SITE_FIRST}`,
  },
  place: (name) => ({
    title: `Rinse with ${name}, refill`,
    text: `Rinse the cup with a little ${name}, discard it, then refill so that both the ion tip and the reference are covered.`,
    caution: 'Never pour used standard back. Gloves and eye protection.',
  }),
  settle: (name) => ({
    title: `Settle in ${name}`,
    text: 'About five minutes. Both standards of a pair within 0.5 °C of each other, or the pair is void.',
  }),
  clean: {
    title: 'Rinse and soak the tip',
    text: 'Rinse with DI water and soak the tip in its low standard for half an hour. A tip is not brushed and not wiped.',
  },
};

const THERMOMETER: BenchWords = {
  ...PH_BENCH,
  takeOut: {
    title: 'Two thermometers beside the probe',
    text: 'Leave the probe where it is. Put two independent thermometers beside it and wait two to three minutes each: two that disagree by more than their accuracy decide nothing.',
    caution: `This thermometer may compensate other channels, and move what they control. ${SITE_FIRST}`,
  },
  place: (name) => ({
    title: `Beside ${name}`,
    text: 'Probe and thermometer close together, in moving water, away from heaters.',
  }),
  settle: () => ({ title: 'Settle beside the thermometer', text: 'Both must stand still together.' }),
  wiggle: null,
  clean: {
    title: 'Check cable and place',
    text: 'Look for a loose plug, a kinked cable, a sheath full of water. Then compare again.',
  },
};

const sample = (what: string): Words => ({
  title: `Draw a sample: ${what}`,
  text: 'Draw it where the sensor measures, at the moment at which its reading is noted. Zero the photometer on the blank, reagent in, read promptly.',
  caution: 'Gloves and eye protection for reagents. Hot and chemical lines under the site’s permit.',
});

const CHLORINE_BENCH: BenchWords = {
  ...PH_BENCH,
  takeOut: {
    title: 'Flow and membrane',
    text: 'The sensor stays in its flow cell, at its right flow. Look for bubbles under the membrane.',
    caution: `Disinfectant lines: the site’s rules come first. ${SITE_FIRST}`,
  },
  place: (name) => sample(name),
  settle: (name) => ({
    title: `Reading at ${name}`,
    text: 'The reading at the moment of sampling is what is paired with the photometer’s value.',
  }),
  wiggle: null,
  clean: {
    title: 'Membrane and electrolyte',
    text: 'Change the membrane cap and its electrolyte, then let it run in for the time its data sheet says.',
  },
};

const OPTICAL: BenchWords = {
  ...PH_BENCH,
  takeOut: {
    title: 'Shut the inlet, drain, open',
    text: 'Shut the inlet and drain before the housing is opened. Do not clean the windows yet: the first look is the as-found one.',
    caution: `Isolate and depressurise first. Do not look into ultraviolet light. Mind seals and alignment. ${SITE_FIRST}`,
  },
  place: (name) => ({
    title: `Into fresh ${name}, in the dark`,
    text: 'Bring the cold standard to temperature first. Shade the cup from light. Check that bottle and channel speak of the same: as N, or as NO3.',
  }),
  settle: (name) => ({
    title: `Settle in ${name}`,
    text: 'Wait until reading and temperature both stand still. Three attempts are normal.',
  }),
  wiggle: {
    title: 'Move it, settle to the same number',
    text: 'Lift it once so that a bubble leaves the windows, and let it settle again.',
  },
  clean: {
    title: 'Clean the windows',
    text: 'Lens tissue and the cleaner that the data sheet names; check the air-clean line. Rinse well.',
    caution: 'Never mix cleaners.',
  },
};

const WORDS: Readonly<Record<string, BenchWords>> = {
  ph: PH_BENCH,
  'ph-shown': PH_BENCH,
  'ph-counts': PH_BENCH,
  conductivity: CELL,
  salinity: CELL,
  resistivity: {
    ...CELL,
    clean: {
      title: 'Rinse the cell',
      text: 'Rinse with the purest water at hand for some minutes, without touching the electrodes. In high-purity water most errors are air, flow and static: do not calibrate them away.',
    },
  },
  orp: REDOX,
  ion: ION_TIP,
  temperature: THERMOMETER,
  chlorine: CHLORINE_BENCH,
  nitrate: OPTICAL,
};

/** The words of a family's step sheet. */
export const benchWords = (family: string): BenchWords => WORDS[family] ?? PH_BENCH;

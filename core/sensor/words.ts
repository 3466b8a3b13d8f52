export interface Words {
  readonly title: string;
  readonly text: string;
  readonly caution?: string;
}

export const SITE_FIRST = 'Local codes, site rules and the maker’s data sheets come first.';

/** What a step sheet says, family by family. */
export interface BenchWords {
  hold(controls: string): Words;
  readonly takeOut: Words;
  place(name: string, previous?: string): Words;
  settle(name: string): Words;
  /** the second settling after a disturbance; null where nothing is to be disturbed */
  readonly wiggle: Words | null;
  readonly wiggleAgain: Words;
  readonly verdict: Words;
  readonly clean: Words;
  readonly adjust: Words;
  readBack(name: string): Words;
  back(controls: string): Words;
}

/** The words of the pH step sheet, in one place so that a reader can hear them together. */
export const PH_BENCH: BenchWords = {
  hold: (controls: string): Words => ({
    title: `Put ${controls} on hold`,
    text: 'Set it on hold at the controller, then confirm here. Out of the water the probe reads nonsense, and the controller would act on it.',
    caution: `A probe pulled while it still controls a doser means an overdose. ${SITE_FIRST}`,
  }),
  takeOut: {
    title: 'Probe out, rinsed, blotted',
    text: 'Rinse with RO, DI or tap water and blot. Do not wipe the glass, and do not clean it yet: the first look is the as-found one.',
    caution: `Pressurised line: isolate, depressurise, drain first. Keep connectors and wet hands away from mains. ${SITE_FIRST}`,
  },
  place: (name: string, previous?: string): Words => ({
    title: previous ? `Rinse, blot, into fresh ${name}` : `Into a fresh cup of ${name}`,
    text: previous
      ? `A drop of ${previous} carried over pulls the reading toward it. Rinse well, blot, then into a fresh cup of ${name}.`
      : `Pour ${name} fresh into a small plastic cup, at the temperature of the water. Tip fully under, no bubbles on the glass.`,
    caution:
      'Blown glass breaks: plastic cup, no force. Eye protection and gloves with pH 10. Never pour used buffer back.',
  }),
  settle: (name: string): Words => ({
    title: `Settle in ${name}`,
    text: 'Tip fully under, no bubbles on the glass. Swirl once, then let it be.',
    caution: 'Blown glass: plastic cup, no force.',
  }),
  wiggle: {
    title: 'Wiggle, settle to the same number',
    text: 'Swirl once more and let it settle again. The second number must agree with the first.',
  },
  wiggleAgain: {
    title: 'They differ: wiggle once more',
    text: 'The last two settlings do not agree, as with a bubble on the glass. Tap it off, swirl, settle again: two in a row must agree.',
  },
  verdict: { title: 'Verdict', text: 'What the numbers say to do, and why. You decide.' } satisfies Words,
  clean: {
    title: 'Clean the probe',
    text: 'Soft brush and mild detergent for growth, a short soak in a cleaner meant for pH glass for scale, then rinse and ten minutes in KCl storage solution. Fresh buffer for the second look.',
    caution:
      'Eye protection and gloves for acid or caustic cleaners. Never mix cleaners. No hard brush on the bulb. Discard used solution as the local rules say.',
  },
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

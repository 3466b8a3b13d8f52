// Every sentence about something odd, one entry a code: long because a translation would replace this file and no other.
import { countsFigure } from './words.ts';
import { shown } from '../reckoner/figures.ts';
import type { Odd, OddFacts, OddId } from '../calibration/odd.ts';

/** What the operator is told: what it looks like, on what evidence, what would tell, and what the two answers are called. */
export interface OddWords {
  readonly title: string;
  readonly because: string;
  readonly tells: string;
  /** the answer of somebody who has mended it */
  readonly mended: string;
  /** the answer of somebody who knows better */
  readonly stands: string;
  /** how the record says it, without the full stop */
  readonly record: string;
}

type Sentences = { readonly [Id in OddId]: (facts: OddFacts[Id]) => OddWords };

/** What stands in a record only: nobody is asked. */
const recorded = (record: string): OddWords => ({
  title: `${record}.`,
  because: '',
  tells: '',
  mended: '',
  stands: '',
  record,
});

interface Level {
  readonly signal: number;
  readonly expected: number;
  readonly step: number;
  readonly unit: string;
}
const level = ({ signal, expected, step, unit }: Level) =>
  `It is heading for ${countsFigure(signal, step)} ${unit}; this sensor gives ${countsFigure(expected, step)} there.`;

interface Meant {
  readonly text: string;
  readonly unit: string;
  readonly expected: number;
}
/** As many figures as say something of a value of this size. */
const digits = (x: number, like: number) =>
  shown(x, Math.min(4, Math.max(0, 2 - Math.floor(Math.log10(Math.abs(like) || 1)))));
const about = ({ expected, unit }: Meant) => `About ${digits(expected, expected)} ${unit} was to be expected`;
const fits = (facts: Meant & { readonly meant: number }) =>
  `${about(facts)}; ${digits(facts.meant, facts.expected)} would fit.`;
const again = ({ text }: { readonly text: string }) => ({ mended: 'Type it again', stands: `It is ${text}` });

const capOrSame = (facts: OddFacts['cap-on']): OddWords =>
  facts.last === ''
    ? {
        title: `Is the cap still on? It reads like what is in there, not like ${facts.asked}.`,
        because: level(facts),
        tells: 'What would tell: look at the tip.',
        mended: 'Cap off, settle again',
        stands: 'It is off',
        record: `It read in ${facts.asked} what is in the cap`,
      }
    : {
        title: `It reads in ${facts.asked} what it read in ${facts.last}.`,
        because: `${countsFigure(facts.signal, facts.step)} ${facts.unit} in both. A cap that is still on, a probe that is still in the other cup, and broken glass or a short all read like this.`,
        tells:
          'What would tell: look at the tip. With the cap off and in this cup it must move; broken glass stays where it is.',
        mended: 'Put right, settle again',
        stands: 'Cap off, and in this cup',
        record: `It read in ${facts.asked} what it read in ${facts.last}`,
      };

const cold = ({ asked, cupC, waterC }: OddFacts['cup-cold']) =>
  `The cup of ${asked} has ${cupC.toFixed(1)} °C, the water ${waterC.toFixed(1)} °C: ${Math.abs(cupC - waterC).toFixed(1)} apart`;

/** Every sentence about what is odd at the bench: the only place that knows their words. */
const SENTENCES: Sentences = {
  'wrong-cup': (facts) => ({
    title: `Is that the right cup? This reads like ${facts.other}, not ${facts.asked}.`,
    because: `${level(facts)}${facts.poles ? ' Plus and minus of the input exchanged would read alike: then all cups on the other side of zero do.' : ''}`,
    tells: 'What would tell: look at the bottle. Change the cup, rinse in between; it then settles again from there.',
    mended: 'Cup changed, settle again',
    stands: `It is ${facts.asked}`,
    record: `It looked like ${facts.other} where ${facts.asked} was asked for`,
  }),
  polarity: (facts) => ({
    title: `This reads like ${facts.asked} turned over: plus and minus of the input may be exchanged.`,
    because: `${level(facts)} A cup on the other side of zero would read alike.`,
    tells: 'What would tell: look at the bottle, then at the plug. Every cup is turned over if it is the input.',
    mended: 'Put right, settle again',
    stands: 'It is right as it is',
    record: `It looked turned over in ${facts.asked}`,
  }),
  'carry-over': (facts) => ({
    title: `Did some of ${facts.last} come along? This lies toward it.`,
    because: level(facts),
    tells:
      'What would tell: rinse, dab dry, and a fresh cup. What was carried over is gone then; a change of the sensor is not.',
    mended: 'Rinsed, fresh cup, settle again',
    stands: 'It was rinsed well',
    record: `It lay toward ${facts.last}`,
  }),
  'cap-on': capOrSame,
  'same-reading': capOrSame,
  'dry-tip': ({ asked, scatter, step, unit }) => ({
    title: `It hardly answers in ${asked}, and is restless: the tip may be dry.`,
    because: `The samples scatter by ${countsFigure(scatter, step / 10)} ${unit}, many times what a wet membrane does.`,
    tells: 'What would tell: soak it in storage solution, an hour if it was dry for long, and look again.',
    mended: 'Soaked, settle again',
    stands: 'It is wet',
    record: 'It was restless and hardly answered',
  }),
  bubble: (facts) => ({
    title: facts.onTip
      ? 'It is more restless than usual: is there a bubble on it, or is the tip dry?'
      : 'Is there a bubble in the cell? It reads low, and rocks.',
    because: `The samples scatter by ${countsFigure(facts.scatter, facts.step / 10)} ${facts.unit}. ${level(facts)}`,
    tells: `What would tell: tilt it and tap it. With the bubble gone it jumps to its own value and is quiet.${
      facts.onTip
        ? ' If it stays restless, soak the tip in storage solution.'
        : ' If nothing changes, does the channel correct for temperature as the set-up says? A small bubble and another coefficient look alike.'
    }`,
    mended: 'Tapped, settle again',
    stands: 'There is none',
    record: 'It was restless and shifted, as with a bubble',
  }),
  'still-moving': ({ toCome, step, unit, seconds, times }) => ({
    title: 'The time is up, and it still moves.',
    because: `After ${Math.round(seconds)} s about ${countsFigure(toCome, step)} ${unit} are still to come: ${times.toFixed(1)} times what counts.`,
    tells: 'What would tell: wait as long again. What moves now goes into the value.',
    mended: 'Wait on',
    stands: 'Capture it as it is',
    record: 'The time was up, and it still moved',
  }),
  'cup-cold': (facts) => ({
    title: `${cold(facts)}.`,
    because: 'Beyond about 5 °C the slope, the table and the ± are those of another temperature.',
    tells: 'Let it float in the water, or say that it stays.',
    mended: 'It is warmer now, settle again',
    stands: 'Capture it as warm as it is',
    record: cold(facts),
  }),
  'thermometer-elsewhere': ({ cupC, moved, carried }) => ({
    title: `Is the thermometer in this cup? Its reading has not moved since the probe ${carried ? 'left its water' : 'was put in'}.`,
    because: `${cupC.toFixed(1)} °C, within ${moved.toFixed(2)} °C all the time${carried ? ', rinsed and carried' : '; a cup is rarely that near to the water'}.`,
    tells: 'What would tell: hold it in the hand for ten seconds, then put it into the cup beside the probe.',
    mended: 'It is in the cup now, settle again',
    stands: 'It is in the cup',
    record: 'The thermometer did not move',
  }),
  'wet-cell': ({ now, expected, step, unit }) => ({
    title: 'The cell is not dry: it conducts in air.',
    because: `${countsFigure(now, step)} ${unit} where this cell shows ${countsFigure(expected, step)} in air, and it falls as the film dries.`,
    tells: 'What would tell: shake it, blow through it, dab the outside. It falls at once if it was a film.',
    mended: 'Dried, settle again',
    stands: 'It is dry',
    record: 'The cell conducted in air',
  }),
  'wrong-range': ({ asked, end, expected, step, unit }) => ({
    title: `It stops at ${countsFigure(end, step)} ${unit}: the range may be too small for ${asked}.`,
    because: `${countsFigure(expected, step)} ${unit} are expected; a round figure below it is the end of a range.`,
    tells: 'What would tell: switch to the next range. It shows the whole value then.',
    mended: 'Range changed, settle again',
    stands: 'The range is right',
    record: 'It stopped at the end of a range',
  }),
  'wrong-coefficient': ({ cupC, off, step, unit, percent, setIn }) => ({
    title: 'Does the channel correct for temperature as the set-up says?',
    because: `At ${cupC.toFixed(1)} °C it is ${countsFigure(off, step)} ${unit} off (${shown(percent, 1)} %), which another coefficient than ${setIn} %/°C explains.`,
    tells: `What would tell: the same standard at 25 °C, where no coefficient counts; or the figure in the channel’s own menu.${
      off < 0 ? ' A bubble between the plates reads low as well: tap the cell first.' : ''
    }`,
    mended: 'Put right, settle again',
    stands: 'It is as in the set-up',
    record: 'Another temperature coefficient would explain it',
  }),
  hum: ({ amplitude, step, unit, seconds, share }) => ({
    title: 'It swings to and fro at a steady beat: mains hum or a stray voltage.',
    because: `${countsFigure(amplitude, step)} ${unit} up and down every ${seconds.toFixed(1)} s, ${Math.round(100 * share)} % of all that moves.`,
    tells:
      'What would tell: unplug pumps, lamps and heaters one after the other, or hold the cup apart from the plant. It is quiet when the culprit is off.',
    mended: 'Gone, settle again',
    stands: 'Leave it',
    record: 'It swung at a steady beat',
  }),
  scale: ({ signal, expected, step, unit }) => ({
    title: 'Is that another scale? The ratio is one between µS/cm and ppm.',
    because: `${countsFigure(signal, step)} where ${countsFigure(expected, step)} ${unit} are expected: ${(signal / expected).toFixed(2)} times. The ppm scales are 0.5, 0.64 and 0.7.`,
    tells: 'What would tell: the unit on the display, and the scale in its menu.',
    mended: 'Scale changed, settle again',
    stands: 'The scale is right',
    record: 'Another scale would explain it',
  }),
  'unlike-itself': (facts) => ({
    title: `That is a large change for this sensor: ${facts.times.toFixed(1)} times its usual spread.`,
    because: level(facts),
    tells: 'What would tell: a fresh cup from another bottle. If it reads the same there, it is the sensor.',
    mended: 'Fresh cup, settle again',
    stands: 'Capture it all the same',
    record: 'It was far from its history',
  }),
  'read-back': ({ asked, off, step, unit, times }) => ({
    title: `Read back in ${asked} it does not agree.`,
    because: `${countsFigure(off, step)} ${unit} from what it gave before the adjustment, ${times.toFixed(0)} times what counts.`,
    tells:
      'What would tell: look at the figures in the controller. A mistyped figure, the wrong point, or a figure that was not stored reads like this.',
    mended: 'Put right, settle again',
    stands: 'Keep it, and note that',
    record: `Read back it was ${countsFigure(off, step)} ${unit} off`,
  }),
  'inside-noise': ({ error, uncertainty, unit, decimals }) => ({
    title: 'Adjusting here chases noise.',
    because: `The error of ${shown(error, decimals)} ${unit} lies inside its own ±${shown(2 * uncertainty, decimals)} (k = 2).`,
    tells: 'What would tell: a second run. If it is the same then, it is real.',
    mended: 'Leave it',
    stands: 'Adjust all the same',
    record: `Adjusted inside its own noise: ${shown(error, decimals)} ${unit}`,
  }),
  tenfold: (facts) => ({
    title: `Is the comma where it belongs? ${facts.text} ${facts.unit} is a power of ten from what was to be expected.`,
    because: fits(facts),
    ...again(facts),
    tells: 'What would tell: the display, its comma and its unit.',
    record: `A power of ten was doubted in ${facts.text}`,
  }),
  digits: (facts) => ({
    title: `Are two digits exchanged in ${facts.text}?`,
    because: fits(facts),
    ...again(facts),
    tells: 'What would tell: the display.',
    record: `Exchanged digits were doubted in ${facts.text}`,
  }),
  'typed-scale': (facts) => ({
    title: `Is ${facts.text} in another scale?`,
    because: fits(facts),
    ...again(facts),
    tells: 'What would tell: the unit on the display, and which scale its menu says.',
    record: `Another scale was doubted in ${facts.text}`,
  }),
  'other-unit': (facts) => ({
    title: `Is ${facts.text} in ${facts.otherUnit}?`,
    because: `${about(facts)}, and ${digits(facts.inOther, 100)} ${facts.otherUnit} is the same.`,
    ...again(facts),
    tells: 'What would tell: the unit on the display. The list beside the figure changes it here.',
    record: `Another unit was doubted in ${facts.text}`,
  }),
  'other-bottle': (facts) => ({
    title: `Is that the right cup? ${facts.text} ${facts.unit} is what ${facts.other} reads.`,
    because: `${about(facts)}.`,
    ...again(facts),
    tells: 'What would tell: look at the bottle.',
    record: `Another bottle was doubted at ${facts.text}`,
  }),
  'far-figure': (facts) => ({
    title: `${facts.text} ${facts.unit} is far from what was to be expected here.`,
    because: `About ${digits(facts.expected, facts.expected)} ± ${digits(2 * facts.sd, facts.expected)} ${facts.unit} was to be expected.`,
    ...again(facts),
    tells: 'What would tell: look at the display once more, and whether the probe is in the cup.',
    record: `A figure far from the expected was typed: ${facts.text}`,
  }),
  fahrenheit: ({ text, celsius, about: water }) => ({
    title: `Is ${text} in °F?`,
    because: `${text} °F is ${((celsius - 32) / 1.8).toFixed(1)} °C; the water has about ${water.toFixed(0)} °C.`,
    tells: 'What would tell: the unit on the display.',
    mended: 'Type it again',
    stands: `It is ${text} °C`,
    record: `°F was doubted in ${text}`,
  }),
  'far-temperature': ({ text, about: water }) => ({
    title: `Is the cup really at ${text} °C?`,
    because: `The water has about ${water.toFixed(0)} °C.`,
    tells: 'What would tell: the display, and where the thermometer stands.',
    mended: 'Type it again',
    stands: `It is ${text} °C`,
    record: `A temperature far from the water was typed: ${text}`,
  }),
  'still-in-cup': ({ shown: now, unit, cup, water, because }) =>
    recorded(
      `It shows ${now} ${unit}, as in its last cup (${cup}).${water ? ` Before the run the water gave ${water}.` : ''}${because ? ` Ended all the same: ${because}` : ''}`,
    ),
  'as-said': ({ text }) => recorded(text.replace(/\.$/, '')),
};

/**
 * What is said of something odd, and how the record says it.
 *
 * @example oddWords({ id: 'carry-over', facts: { last: '7.00', signal: 160.1, expected: 168.3, step: 0.59, unit: 'mV' } }).record // 'It lay toward 7.00'
 */
export const oddWords = ({ id, facts }: Odd): OddWords => (SENTENCES[id] as (facts: Odd['facts']) => OddWords)(facts);

/** How a record says it, as a sentence. @example oddRecord({ id: 'as-said', facts: { text: 'It was off', was: '' } }, false) // 'It was off; mended.' */
export const oddRecord = (odd: Odd, kept: boolean): string => `${oddWords(odd).record}${kept ? '' : '; mended'}.`;

/**
 * Are these the facts of that code: can its sentences be made of them? What came from outside is asked before it is kept.
 *
 * @example areFactsOf('carry-over', { last: '7.00' }) // 'false'
 */
export function areFactsOf(id: unknown, facts: unknown): facts is Odd['facts'] {
  if (typeof id !== 'string' || !Object.hasOwn(SENTENCES, id)) return false;
  try {
    const words = oddWords({ id, facts } as Odd);
    return Object.values(words).every((w) => typeof w === 'string' && !/undefined|NaN|\[object/.test(w));
  } catch {
    return false;
  }
}

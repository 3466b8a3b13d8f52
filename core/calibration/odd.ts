/** The signal, what the history expects of it here, and the step that says how many digits either is worth. */
interface Level {
  readonly signal: number;
  readonly expected: number;
  /** in the unit of the signal, as they are */
  readonly step: number;
  readonly unit: string;
}
/** A figure as it was typed, and about what was to be expected, in its unit. */
interface Typed {
  readonly text: string;
  readonly unit: string;
  readonly expected: number;
}
interface Meant extends Typed {
  /** the figure that would fit */
  readonly meant: number;
}
type Sized = Omit<Level, 'signal' | 'expected'>;
/** The cup's standard, by its name. */
interface Asked {
  readonly asked: string;
}

/** Everything that may be odd, by its code, with the facts that a sentence about it is made of. Plain figures and texts: they are kept. */
export interface OddFacts {
  readonly 'wrong-cup': Level & Asked & { readonly other: string; readonly poles: boolean };
  readonly polarity: Level & Asked;
  /** `last`: the standard before */
  readonly 'carry-over': Level & { readonly last: string };
  /** `last`: the standard in which it read the same; '' = it reads like what is in the cap */
  readonly 'cap-on': Level & Asked & { readonly last: string };
  readonly 'same-reading': OddFacts['cap-on'];
  readonly 'dry-tip': Sized & Asked & { readonly scatter: number };
  readonly bubble: Level & { readonly scatter: number; readonly onTip: boolean };
  /** `times`: the step that counts */
  readonly 'still-moving': Sized & { readonly toCome: number; readonly seconds: number; readonly times: number };
  readonly 'cup-cold': Asked & { readonly cupC: number; readonly waterC: number };
  /** `moved`, °C; `carried`: it was seen on its way from the water, too */
  readonly 'thermometer-elsewhere': { readonly cupC: number; readonly moved: number; readonly carried: boolean };
  readonly 'wet-cell': Sized & { readonly now: number; readonly expected: number };
  readonly 'wrong-range': Sized & Asked & { readonly end: number; readonly expected: number };
  /** `setIn`, %/°C */
  readonly 'wrong-coefficient': Sized & { readonly cupC: number; readonly off: number; readonly percent: number; readonly setIn: number }; // prettier-ignore
  readonly hum: Sized & { readonly amplitude: number; readonly seconds: number; readonly share: number };
  readonly scale: Level;
  /** `times`: its usual spread */
  readonly 'unlike-itself': Level & { readonly times: number };
  readonly 'read-back': Sized & Asked & { readonly off: number; readonly times: number };
  readonly 'inside-noise': { readonly error: number; readonly uncertainty: number; readonly unit: string; readonly decimals: number }; // prettier-ignore
  readonly tenfold: Meant;
  readonly digits: Meant;
  readonly 'typed-scale': Meant;
  readonly 'other-unit': Typed & { readonly otherUnit: string; readonly inOther: number };
  readonly 'other-bottle': Typed & { readonly other: string };
  readonly 'far-figure': Typed & { readonly sd: number };
  readonly fahrenheit: { readonly text: string; readonly celsius: number; readonly about: number };
  readonly 'far-temperature': OddFacts['fahrenheit'];
  /** figures as they stood on the screen; `water` is '' where it was not known; `because` is the operator's reason for ending the run all the same */
  readonly 'still-in-cup': { readonly shown: string; readonly unit: string; readonly cup: string; readonly water: string; readonly because: string }; // prettier-ignore
  /** from before there were codes: the sentence as it was kept, and what it was about where that is known */
  readonly 'as-said': { readonly text: string; readonly was: OddId | '' };
}

export type OddId = keyof OddFacts;

/** All codes. */
export const ODD_IDS = [
  'wrong-cup',
  'polarity',
  'carry-over',
  'cap-on',
  'same-reading',
  'dry-tip',
  'bubble',
  'still-moving',
  'cup-cold',
  'thermometer-elsewhere',
  'wet-cell',
  'wrong-range',
  'wrong-coefficient',
  'hum',
  'scale',
  'unlike-itself',
  'read-back',
  'inside-noise',
  'tenfold',
  'digits',
  'typed-scale',
  'other-unit',
  'other-bottle',
  'far-figure',
  'fahrenheit',
  'far-temperature',
  'still-in-cup',
  'as-said',
] as const satisfies readonly OddId[];

/** Something odd, as it is asked, answered and kept. */
export type Odd = { readonly [Id in OddId]: { readonly id: Id; readonly facts: OddFacts[Id] } }[OddId];

/** What it is about, whichever words it was kept in. @example aboutOf({ id: 'as-said', facts: { text: 'It lay toward 7.00.', was: 'carry-over' } }) // 'carry-over' */
export const aboutOf = (odd: Odd): OddId | '' => (odd.id === 'as-said' ? odd.facts.was : odd.id);

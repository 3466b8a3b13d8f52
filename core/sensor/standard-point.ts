import type { Conditions } from './conditions.ts';
import type { Standard } from '../solutions/standard.ts';

/** A measured standard, as the arithmetic of every family sees it. */
export interface StandardPoint extends Conditions {
  readonly standard: Standard;
  /** id of the lot; two points from one lot share its error. '' = not noted */
  readonly lotId: string;
  /** in the model's signal unit */
  readonly signal: number;
  /** standard uncertainty of the signal: settling, noise */
  readonly signalUncertainty: number;
  /** degrees of freedom behind it, when it comes from a few repeats */
  readonly signalFreedom?: number;
  /** how well settlings of one cup agree: standard uncertainty of their mean, in the unit of the signal, and what it rests on */
  readonly repeatability?: { readonly uncertainty: number; readonly degreesOfFreedom: number };
  /** true where the thermometer that compensates the loop showed the temperature of the cup; else a separate thermometer did */
  readonly byLoopThermometer?: boolean;
  /** smallest step of the channel, in the unit of the signal */
  readonly resolution?: number;
  /** standard uncertainty that the age of the opened bottle adds, in the standard's unit */
  readonly ageUncertainty?: number;
}

import type { Unit } from '../quantities/units.ts';
import type { Tail } from '../settling/ways.ts';
import type { Standard } from '../solutions/standard.ts';

/** What a parameter means in a family. */
export interface ParameterMeaning {
  readonly name: string;
  readonly unit: string;
  readonly meaning: string;
}

/** A thing about the sensor or its loop that the arithmetic must know. */
export type SettingField =
  | {
      readonly kind: 'figure';
      readonly name: string;
      readonly unit: string;
      readonly usual: number;
      readonly low: number;
      readonly high: number;
    }
  | {
      readonly kind: 'choice';
      readonly name: string;
      readonly usual: string;
      readonly choices: readonly { readonly id: string; readonly name: string }[];
    };

export type Settings = Readonly<Record<string, number | string>>;

/** Uncertainty of the reported value that no standard can take away, one standard uncertainty. */
export interface WorkingRow {
  readonly name: string;
  /** in the unit of the value */
  readonly uncertainty: number;
  /** where the figure comes from */
  readonly because: string;
}

/** Where a loop works, and how warm the cups were. */
export interface WorkingPoint {
  readonly value: number;
  readonly temperatureC: number;
  readonly calibrationC: number;
}

/** A family with its settings put in: everything that the arithmetic asks of it. */
export interface Model {
  readonly valueUnit: Unit;
  readonly signalUnit: string;
  /** values outside are no readings of this family */
  readonly range: { readonly low: number; readonly high: number };
  /** signal of the ideal sensor at value 0 of `ideal`: 0, but for channels that show values themselves */
  readonly origin: number;
  /** response of the ideal sensor; refuses outside the family's validity */
  ideal(value: number, temperatureC: number): number;
  /** the value that gives this response: inverse of `ideal` in its first argument */
  valueOf(ideal: number, temperatureC: number): number;
  /**
   * What a right channel shows in a standard.
   *
   * @param value of the standard at the temperature of the cup, in the standard's unit
   */
  shows(standard: Standard, value: number, temperatureC: number): number;
  /** what remains unknown at the working point, besides the calibration itself */
  workingRows(at: WorkingPoint): readonly WorkingRow[];
}

/** Which of the two coefficients a set of points determines; the other one is held. */
export type Free = 'zero' | 'sensitivity' | 'both';

/** Where practice stops trusting a sensor. Editable data; common practice, no source. */
export interface SensorLimits {
  /** largest zero that is still a sensor's own, in the unit of the signal; Infinity where any is */
  readonly zero: number;
  readonly sensitivityLow: number;
  readonly sensitivityHigh: number;
  /** below this share of the ideal response nothing is left to calibrate */
  readonly sensitivityDead: number;
  readonly t90Seconds: number;
  /** an error below this share of the tolerance is left alone */
  readonly adjustAboveShare: number;
}

/** The change of a signal that counts: when less is still to come, a reading is steady. The larger of the two. */
export interface SettleStep {
  /** in the unit of the signal */
  readonly absolute: number;
  /** share of the signal expected in the standard */
  readonly relative: number;
}

/** One kind of sensor. A new one is a folder with a value of this type, and one line in `registry.ts`. */
export interface Family {
  readonly id: string;
  readonly name: string;
  readonly zero: ParameterMeaning;
  readonly sensitivity: ParameterMeaning;
  /** how many standards a calibration takes */
  readonly points: { readonly least: number; readonly most: number };
  readonly settings: Readonly<Record<string, SettingField>>;
  readonly limits: SensorLimits;
  /** what practice suspects first beyond each limit, to be read after the figure */
  readonly suspects: {
    readonly zero: string;
    readonly high: string;
    readonly dead: string;
    /** what it may be when all cups read alike, and the test that tells which. Common practice, no source. */
    readonly alike: { readonly means: string; readonly test: string };
  };
  readonly step: SettleStep;
  /** how its slow answer usually goes. Common practice, no source. */
  readonly tail: Tail;
  /** the settings put in, each checked against its field by `modelOf` */
  model(settings: Settings): Model;
  /** what these values determine, sorted rising */
  frees(values: readonly number[]): Free;
  /** why these values cannot carry a line, in a sentence with the way out; null = they can */
  tooClose(values: readonly number[]): string | null;
}

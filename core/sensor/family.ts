import type { Befalls } from './befalls.ts';
import type { ConditionName, Conditions } from './conditions.ts';
import type { Free, NoCalibration, SensorCalibration } from './calibration.ts';
import type { FamilyPrior } from './prior.ts';
import type { ProcedureKind } from './procedures.ts';
import type { StandardPoint } from './standard-point.ts';
import type { BenchWords, Soak } from './words.ts';
import type { Unit } from '../quantities/units.ts';
import type { Scale } from './scale.ts';
import type { Tail } from '../settling/ways.ts';
import type { Standard } from '../solutions/standard.ts';

/** What a parameter means in a family. */
export interface ParameterMeaning {
  readonly name: string;
  readonly unit: string;
  readonly meaning: string;
}

/** A setting that matters only while a second one has this choice: it is asked for only then. */
interface OnlyWith {
  readonly onlyWith?: { readonly setting: string; readonly is: string };
}

/** A thing about the sensor or its loop that the arithmetic must know. */
export type SettingField = OnlyWith &
  (
    | {
        readonly kind: 'figure';
        readonly name: string;
        readonly unit: string;
        readonly usual: number;
        readonly low: number;
        readonly high: number;
        /** it changes how values are written or how well they are known, and no figure of a run: it may change at any time */
        readonly mayChange?: true;
      }
    | {
        readonly kind: 'choice';
        readonly name: string;
        readonly usual: string;
        readonly choices: readonly { readonly id: string; readonly name: string }[];
        readonly mayChange?: true;
      }
  );

/**
 * The settings that matter as the others are: what is asked for, and shown.
 *
 * @example settingsThatMatter(familyOf('temperature').settings, { element: 'Pt100' }).map(([key]) => key).join() // 'element'
 */
export const settingsThatMatter = (
  fields: Readonly<Record<string, SettingField>>,
  settings: Readonly<Record<string, unknown>>,
): readonly (readonly [key: string, field: SettingField])[] =>
  Object.entries(fields).filter(
    ([, { onlyWith }]) => !onlyWith || (settings[onlyWith.setting] ?? fields[onlyWith.setting]?.usual) === onlyWith.is,
  );

export type Settings = Readonly<Record<string, number | string>>;

/** Uncertainty of the reported value that no standard can take away, one standard uncertainty. */
export interface WorkingRow {
  readonly name: string;
  /** in the unit of the value, or of the signal where it says so */
  readonly uncertainty: number;
  /** it is added to the signal, as a junction's potential is: a worn slope makes more of it */
  readonly ofSignal?: true;
  /** where the figure comes from */
  readonly because: string;
}

/** Where a loop works, and how warm the cups were. */
export interface WorkingPoint extends Conditions {
  readonly value: number;
  readonly calibrationC: number;
}

/** A family with its settings put in: everything that the arithmetic asks of it. */
export interface Model {
  readonly valueUnit: Unit;
  readonly signalUnit: string;
  /** ways of writing the value besides the units of its kind; absent = none */
  readonly writes?: () => readonly Scale[];
  /** values outside are no readings of this family */
  readonly range: { readonly low: number; readonly high: number };
  /** signal of the ideal sensor at value 0 of `ideal`: 0, but for channels that show values themselves */
  readonly origin: number;
  /** response of the ideal sensor; refuses outside the family's validity */
  ideal(value: number, at: Conditions): number;
  /** the value that gives this response: inverse of `ideal` in its first argument */
  valueOf(ideal: number, at: Conditions): number;
  /**
   * What a right channel shows in a standard.
   *
   * @param value of the standard at the temperature of the cup, in the standard's unit
   */
  shows(standard: Standard, value: number, at: Conditions): number;
  /**
   * The value that the same liquid has at 25 °C, by a coefficient of the liquid's own: beside the reading, never instead of
   * it. Absent where none is known.
   */
  readonly liquidAt25?: (value: number, at: Conditions) => number;
  /** what remains unknown at the working point, besides the calibration itself */
  workingRows(at: WorkingPoint): readonly WorkingRow[];
}

/** A bare cell: it gives a conductance, whatever is made of it. */
export const isCell = ({ signalUnit }: Pick<Model, 'signalUnit'>): boolean => signalUnit === 'µS';

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
  /**
   * share of the ± that an error keeps away from the tolerance before anything is stated: 1 (if absent) = guarded by all
   * of it, 0 = simple acceptance
   */
  readonly guardShare?: number;
}

/** The change of a signal that counts: when less is still to come, a reading is steady. The larger of the two. */
export interface SettleStep {
  /** in the unit of the signal */
  readonly absolute: number;
  /** share of the signal expected in the standard */
  readonly relative: number;
}

/** What practice pours for a family. */
export interface Poured {
  /** every standard of it that ships; a standard that several families share stands in each of them */
  readonly all: readonly Standard[];
  /** does this one serve a sensor with such settings? A team's own standard serves the family that it names */
  serves(standard: Standard, settings: Settings): boolean;
  /** usual sets, by id, first standard first; none where the value comes from a sample or a thermometer */
  sets(settings: Settings): readonly (readonly string[])[];
  /** "sensors of pH", "chloride tips" */
  usedBy(settings: Settings): string;
  /** may it be mistaken for another standard: does it stand on benches at all? */
  mixedUp(standard: Standard): boolean;
  /** an opened bottle takes up air and drops of other cups: good for so many days. Common practice, no source. */
  readonly openedDays: number;
  /** how many cups of one standard a run may have */
  readonly cupsOfOne: number;
  /** how far both cups of a pair may differ in temperature, °C; null where standards make no pairs. Common practice, no source. */
  readonly pairC: number | null;
  /**
   * how they should stand about what the loop works at, in the unit of the value: at least so far from each other, and the
   * working value at most so far outside. null where one standard is enough. Common practice, no source.
   */
  readonly about: { readonly leastApart: number; readonly mostOutside: number } | null;
}

/** How a family's figures are printed. */
interface Shown {
  /** decimals of a value; null: as many as the tolerance of the loop needs */
  readonly digits: number | null;
  /** figures of a value that count, at least: where what is exact in one standard has no digits in the water's */
  readonly leastFigures: number;
  /** the line through its standards */
  readonly line: 'straight' | 'logarithmic';
  /** is the sensitivity ever anything but 100 %? */
  readonly sensitivity: boolean;
  /** when a reading is steady, in words; '' = its step */
  readonly steady: string;
  /** what is measured, where the settings say more than the family: "chloride"; '' = the family's name */
  variant(settings: Settings): string;
}

/** As most families are printed. */
export const PLAINLY: Shown = {
  digits: null,
  leastFigures: 0,
  line: 'straight',
  sensitivity: true,
  steady: '',
  variant: () => '',
};

/** What people type where a sensor of a family is set up or read. Common practice, no source. */
interface SetUpHints {
  /** where it usually works, as a hint, and how far off is usually still good */
  readonly worksAt: string;
  readonly tolerance: string;
  /** a recorded trace of it can be dropped on the page */
  readonly traces: boolean;
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
  /** what its arithmetic asks of the surroundings besides the temperature; typed, or shown by another loop */
  conditions(settings: Settings): readonly ConditionName[];
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
  /** the settings put in, each checked against its field by `modelOf`; conditions are not among them, they come with `at` */
  model(settings: Settings): Model;
  /** what these values determine, sorted rising */
  frees(values: readonly number[]): Free;
  /** why these values cannot carry a line, in a sentence with the way out; null = they can */
  tooClose(values: readonly number[]): string | null;
  /**
   * what holds at the water's temperature, where a set has further points near it; null where all points are one line
   *
   * @param points as they were measured, in the order of the plan
   */
  atWork(model: Model, points: readonly StandardPoint[], workingC: number): SensorCalibration | NoCalibration | null;
  readonly standards: Poured;
  /** how runs of it go, the usual one first */
  readonly procedures: readonly ProcedureKind[];
  readonly words: BenchWords;
  /** what a membrane that comes from its box, or ran dry, waits for before it is trusted. Common practice, no source. */
  readonly soak: Soak | null;
  /**
   * what is known before one sensor has said anything
   *
   * @param step change of signal that counts at the working value, in the unit of the signal
   */
  prior(step: number): FamilyPrior;
  /** what may befall it; null where nothing is written: channels that show pH themselves hide what their electrode does */
  readonly befalls: Befalls | null;
  /** where several sensors share a reference: calibrated first, or after the others; null where none is shared. Common practice, no source. */
  readonly onReference: 'first' | 'last' | null;
  /** it measures temperature: others lean on it, it is compared where it hangs, and what it shows is how warm it is */
  readonly thermometer: boolean;
  /** what is in the cap that it is kept in, as a value, and how that spreads; null where there is none. Common practice, no source. */
  readonly storedIn: { readonly value: number; readonly sd: number } | null;
  /** linear coefficient by which the display goes to 25 °C, %/°C; null where there is none, or no line */
  compensation(settings: Settings): number | null;
  /** factors between the scales in which its values are written */
  readonly scales: readonly number[];
  readonly shown: Shown;
  readonly typed: SetUpHints;
}

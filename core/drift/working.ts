import type { FamilyPrior } from '../sensor/prior.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { Conditions } from '../sensor/conditions.ts';
import type { Model } from '../sensor/family.ts';
import type { Mixture, MixturePiece } from '../statistics/mixture.ts';
import type { Known } from './course.ts';

/** Where the sensor works: the error that counts is the one shown here. */
export interface Working extends Conditions {
  readonly model: Model;
  readonly value: number;
  /**
   * standard uncertainty of the shown error that no run of the sensor takes away (junction, water, thermometer), in the
   * unit of the value: see `standingRowsOf`; absent = the sensor alone is looked at
   */
  readonly rest?: (inForce: Coefficients, byThermometer?: Coefficients) => number;
}

/** Error that the channel shows at the working value, in its unit, at one moment. */
export interface ErrorAt extends Mixture {
  readonly atMs: number;
  readonly sd: number;
  /** half widths of the bands that hold it with 50 and 95 % */
  readonly half50: number;
  readonly half95: number;
}

/** Zero and sensitivity expected at a moment, with standard deviations. */
export interface ParametersAt {
  readonly zero: number;
  readonly zeroSd: number;
  readonly sensitivity: number;
  readonly sensitivitySd: number;
}

/** The same, as it is made up of the ways in which the sensor may go on: chances that add up to 1. */
export interface ExpectedAt extends ParametersAt {
  readonly each: readonly (ParametersAt & { readonly chance: number })[];
}

/** What is known of a sensor along its way if it lives at one pace, and how likely that is at each moment. */
export interface AtOnePace {
  readonly prior: FamilyPrior;
  readonly known: readonly Known[];
  readonly chances: readonly number[];
}

/** One way in which a sensor may stand, and what that makes of the error at work. */
export interface Explanation {
  /** id of the cause; null = nothing, or what runs in standards see as they see the sensor itself */
  readonly cause: string | null;
  readonly chance: number;
  /** the run that first showed it, epoch ms; absent = none in particular */
  readonly sinceMs?: number;
  /** what is known of it along its way, if that is so */
  readonly lines: readonly AtOnePace[];
  /** what its zero has at work beyond what runs find, in the unit of the signal; empty = nothing */
  readonly beyond: readonly MixturePiece[];
}

import type { Coefficients } from './coefficients.ts';

/** Which of the two coefficients a set of points determines; the other one is held. */
export type Free = 'zero' | 'sensitivity' | 'both';

/** One thing that is not known well, and what moves when it is off. */
export interface Source {
  readonly name: string;
  readonly unit: string;
  /** one standard uncertainty, in `unit` */
  readonly uncertainty: number;
  readonly distribution: 'normal' | 'rectangular';
  /** Infinity when it is known well how badly it is known */
  readonly degreesOfFreedom: number;
  /** it is the thermometer that compensates the loop at work as well */
  readonly ofLoop?: true;
  /** the inputs of the fit with this source off by `by`, in `unit` */
  move(inputs: FitInputs, by: number): FitInputs;
}

/** What a fit starts from; a source moves one part of it. */
export interface FitInputs {
  readonly signals: readonly number[];
  readonly temperaturesC: readonly number[];
  /** added to each standard's value, in its own unit */
  readonly shifts: readonly number[];
  readonly held: Coefficients;
}

/** Zero and sensitivity with what is known about them. */
export interface SensorCalibration {
  readonly ok: true;
  readonly free: Free;
  readonly coefficients: Coefficients;
  /** order zero, sensitivity; a held parameter carries the uncertainty it was given */
  readonly covariance: readonly [readonly [number, number], readonly [number, number]];
  /** measured − fitted at each point, in the unit of the signal */
  readonly residuals: readonly number[];
  readonly chiSquare: number;
  readonly degreesOfFreedom: number;
  readonly sources: readonly Source[];
  /** zero and sensitivity again from moved inputs, with the same weights */
  readonly refit: (inputs: FitInputs) => Coefficients;
  readonly inputs: FitInputs;
}

/** Why points carry no line. */
export interface NoFit {
  readonly ok: false;
  readonly reason: 'too-few-standards' | 'too-many-standards' | 'standards-not-distinct';
  readonly message: string;
}

/** The same, or why pairs at two temperatures carry no course. */
export interface NoCalibration extends Omit<NoFit, 'reason'> {
  readonly reason: NoFit['reason'] | 'pair-apart' | 'temperatures-alike' | 'water-beyond-pairs';
}

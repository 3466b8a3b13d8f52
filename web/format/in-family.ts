import {
  significantStep,
  digitsFor,
  familyOf,
  modelOf,
  Refusal,
  shownValue,
  signalDigitsFor,
  signalOfReading,
  valueOfReading,
  type Coefficients,
  type Surrounded,
  type Family,
  type Model,
  type Settings,
} from '@frustum/core';
import { fixed, signed } from './numbers.ts';

/** How a loop's figures are printed, whatever its family: unit, digits, and what a reading means. */
export interface InFamily {
  readonly family: Family;
  readonly model: Model;
  readonly unit: string;
  readonly digits: number;
  readonly signalUnit: string;
  readonly signalDigits: number;
  /** a value in the family's unit, without it */
  value(value: number | null | undefined, more?: number): string;
  /** the same with its sign: an error */
  off(error: number | null | undefined, more?: number): string;
  signal(signal: number | null | undefined): string;
  /** "−3.2 mV, 97.4 %" */
  coefficients(of: Coefficients): string;
  /** what a channel shows for a signal; null where there is nothing to be shown, as for a salinity in air */
  shown(signal: number, temperatureC: number, inForce: Coefficients): number | null;
  /** the signal behind a reading in the channel's unit; null where there is none */
  signalOf(reading: number, unit: string, temperatureC: number, inForce: Coefficients): number | null;
  valueOf(
    reading: number,
    unit: string,
    temperatureC: number,
    inForce: Coefficients,
    surrounded?: Surrounded,
  ): number | null;
}

/** What it computes, or null where the core refuses. */
export function unlessRefused<T>(make: () => T): T | null {
  try {
    return make();
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

/** A loop, or the plan of a run on it. */
interface OfFamily {
  readonly family: string;
  readonly settings?: Settings;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
}

const known = new Map<string, InFamily>();

/** Unit, digits and arithmetic of a loop's family, with its settings put in. */
export function inFamily({ family: id, settings = {}, workingValue, workingC, tolerance }: OfFamily): InFamily {
  const key = JSON.stringify([id, settings, workingValue, workingC, tolerance]);
  const before = known.get(key);
  if (before) return before;
  const family = familyOf(id);
  const model = modelOf(family, settings);
  const step = unlessRefused(() => significantStep(family, model, { value: workingValue, temperatureC: workingC }));
  const digits = family.shown.digits ?? digitsFor(tolerance);
  const signalDigits = family.shown.digits ?? signalDigitsFor(step ?? 1);
  const { leastFigures } = family.shown;
  const made: InFamily = {
    family,
    model,
    unit: model.valueUnit,
    digits,
    signalUnit: model.signalUnit,
    signalDigits,
    value: (value, more = 0) => fixed(value, Math.max(digits, leastFigures ? digitsOf(value, leastFigures) : 0) + more),
    off: (error, more = 0) => signed(error, digits + more),
    signal: (signal) => fixed(signal, signalDigits),
    coefficients: ({ zero, sensitivity }) =>
      `${fixed(zero, signalDigits)} ${model.signalUnit}, ${fixed(100 * sensitivity, 1)} %`,
    shown: (signal, temperatureC, inForce) => unlessRefused(() => shownValue(model, signal, { temperatureC }, inForce)),
    signalOf: (reading, unit, temperatureC, inForce) =>
      unlessRefused(() => signalOfReading(model, reading, unit, { temperatureC }, inForce)),
    valueOf: (reading, unit, temperatureC, inForce, surrounded = {}) =>
      unlessRefused(() => valueOfReading(model, reading, unit, { temperatureC, ...surrounded }, inForce)),
  };
  if (known.size > 400) known.clear();
  known.set(key, made);
  return made;
}

/** Decimals that so many figures take: a standard of 84 µS/cm is 0.0119 MΩ·cm. */
const digitsOf = (value: number | null | undefined, figures: number) =>
  value ? Math.min(6, figures - 1 - Math.floor(Math.log10(Math.abs(value)))) : 0;

/** "Air zero": a name at the head of a line. pH stays pH. */
export const upper = (text: string) => (text.startsWith('pH') ? text : text.charAt(0).toUpperCase() + text.slice(1));

import {
  kindOf,
  scalesOf,
  significantStep,
  familyOf,
  modelOf,
  Refusal,
  shownValue,
  signalDigitsFor,
  signalOfReading,
  valueOfReading,
  writtenIn,
  type Coefficients,
  type Surrounded,
  type Family,
  type Model,
  type Settings,
  type ShownAs,
  type Written,
} from '@frustum/core';
import { fixed, signed } from './numbers.ts';

/**
 * How a loop's figures are printed, whatever its family: in the scale of its instrument, or in the one that the person here
 * prefers. What goes in is in the family's own unit.
 */
export interface InFamily {
  readonly family: Family;
  readonly model: Model;
  readonly written: Written;
  /** unit and scale, as they are printed */
  readonly unit: string;
  /** decimals of an error or a width */
  readonly digits: number;
  readonly signalUnit: string;
  readonly signalDigits: number;
  /** a value, without its unit. @param temperatureC of what has it; absent = the loop's water */
  value(value: number | null | undefined, more?: number, temperatureC?: number): string;
  /** a tolerance, a ±: a width without a sign */
  size(width: number | null | undefined, more?: number): string;
  /** an error, with its sign */
  off(error: number | null | undefined, more?: number): string;
  /** figures for a chart: NaN where the scale has none */
  readonly plotted: (value: number) => number;
  readonly plottedOff: (error: number) => number;
  signal(signal: number | null | undefined): string;
  /** "−3.2 mV, 97.4 %" */
  coefficients(of: Coefficients): string;
  /** what a channel shows for a signal, in the family's unit; null where there is nothing to be shown, as for a salinity in air */
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
  readonly shownAs?: ShownAs;
}

/** Scales that the person here prefers, by what is measured. */
export type PreferredScales = Readonly<Record<string, string>>;
let preferredScales: PreferredScales = {};

/** From now on figures are printed in these, where a family has them. */
export function preferScales(scales: PreferredScales): void {
  preferredScales = scales;
}

/** The scale that a loop is written in here: as the person prefers it, or as its instrument does. */
function scaleHere(model: Model, shownAs: ShownAs | undefined): ShownAs | undefined {
  const scale = preferredScales[kindOf(model.valueUnit)];
  if (scale === undefined || scale === shownAs?.scale || !scalesOf(model).some((s) => s.id === scale)) return shownAs;
  return { scale, step: null };
}

/** The unit in which temperatures of cups are typed, until somebody picks the other one. */
export const degreesHere = (): '°C' | '°F' => (preferredScales['temperature'] === '°F' ? '°F' : '°C');

const known = new Map<string, InFamily>();

/** Unit, digits and arithmetic of a loop's family, with its settings put in. */
export function inFamily(of: OfFamily): InFamily {
  const { family: id, settings = {}, workingValue, workingC, tolerance, shownAs } = of;
  const key = JSON.stringify([id, settings, workingValue, workingC, tolerance, shownAs, preferredScales]);
  const before = known.get(key);
  if (before) return before;
  const family = familyOf(id);
  const model = modelOf(family, settings);
  const here = scaleHere(model, shownAs);
  const written = writtenIn(family, model, { workingValue, workingC, tolerance, ...(here && { shownAs: here }) });
  const made: InFamily = {
    family,
    model,
    written,
    unit: written.unit,
    digits: written.digits,
    ...inFigures(family, written),
    ...inSignals(family, model, { value: workingValue, temperatureC: workingC }),
  };
  if (known.size > 400) known.clear();
  known.set(key, made);
  return made;
}

function inFigures(family: Family, written: Written) {
  const { digits, valueDigits } = written;
  const { leastFigures } = family.shown;
  return {
    value: (value: number | null | undefined, more = 0, temperatureC?: number) => {
      const made =
        value == null ? null : written.value(value, temperatureC === undefined ? undefined : { temperatureC });
      const least = leastFigures && written.step === null ? digitsOf(made, leastFigures) : 0;
      return fixed(made, Math.max(valueDigits, least) + more);
    },
    size: (width: number | null | undefined, more = 0) =>
      fixed(width == null ? null : written.size(width), digits + more),
    off: (error: number | null | undefined, more = 0) =>
      signed(error == null ? null : written.off(error), digits + more),
    plotted: (value: number) => written.exact(value) ?? NaN,
    plottedOff: (error: number) => written.off(error),
  };
}

function inSignals(family: Family, model: Model, working: { value: number; temperatureC: number }) {
  const step = unlessRefused(() => significantStep(family, model, working));
  const signalDigits = family.shown.digits ?? signalDigitsFor(step ?? 1);
  return {
    signalUnit: model.signalUnit,
    signalDigits,
    signal: (signal: number | null | undefined) => fixed(signal, signalDigits),
    coefficients: ({ zero, sensitivity }: Coefficients) =>
      `${fixed(zero, signalDigits)} ${model.signalUnit}, ${fixed(100 * sensitivity, 1)} %`,
    shown: (signal: number, temperatureC: number, inForce: Coefficients) =>
      unlessRefused(() => shownValue(model, signal, { temperatureC }, inForce)),
    signalOf: (reading: number, unit: string, temperatureC: number, inForce: Coefficients) =>
      unlessRefused(() => signalOfReading(model, reading, unit, { temperatureC }, inForce)),
    valueOf: (
      reading: number,
      unit: string,
      temperatureC: number,
      inForce: Coefficients,
      surrounded: Surrounded = {},
    ) => unlessRefused(() => valueOfReading(model, reading, unit, { temperatureC, ...surrounded }, inForce)),
  };
}

/** Decimals that so many figures take: a standard of 84 µS/cm is 0.0119 MΩ·cm. */
const digitsOf = (value: number | null | undefined, figures: number) =>
  value ? Math.min(6, figures - 1 - Math.floor(Math.log10(Math.abs(value)))) : 0;

/** A sentence that goes on after a colon. */
export const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** "Air zero": a name at the head of a line. pH stays pH. */
export const upper = (text: string) => (text.startsWith('pH') ? text : text.charAt(0).toUpperCase() + text.slice(1));

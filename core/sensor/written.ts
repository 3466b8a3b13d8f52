import type { Conditions } from './conditions.ts';
import type { Family, Model, Settings } from './family.ts';
import { AS_OWN, scaleOf, type ShownAs } from './scale.ts';
import { unlessRefused } from './sources.ts';

/**
 * Decimals in which a size of this kind says something: two figures of it.
 *
 * @example digitsFor(0.15) // 2
 */
export const digitsFor = (size: number): number => Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(size))));

/**
 * Decimals that a display with this step has.
 *
 * @example decimalsOf(0.05) // 2
 * @example decimalsOf(10) // 0
 */
export const decimalsOf = (step: number): number => {
  const [figures = '', power = '0'] = String(step).split('e');
  return Math.min(8, Math.max(0, (figures.split('.')[1]?.length ?? 0) - Number(power)));
};

/** Where a loop works, and how its figures are written. */
export interface WorksAt {
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly settings?: Settings;
  readonly shownAs?: ShownAs;
}

/** The figures of one loop as its operator writes them. Everything that is kept and reckoned is in the model's own unit. */
export interface Written {
  /** unit and scale, printed behind every figure */
  readonly unit: string;
  /** smallest step of its display; null = not said */
  readonly step: number | null;
  /** decimals of a value, and of an error or a ± */
  readonly valueDigits: number;
  readonly digits: number;
  /** is it the family's own unit? */
  readonly own: boolean;
  /** does more of the value make less of what is written? */
  readonly falls: boolean;
  /** where the loop works, as a text without the unit */
  readonly worksAt: string;
  /** a value of the water or of a cup, rounded to the display's step; null where the scale has none for it */
  readonly value: (own: number, at?: Conditions) => number | null;
  /** the same before it is rounded */
  readonly exact: (own: number, at?: Conditions) => number | null;
  /** a width: a tolerance, a ±. It is not turned round where the scale falls */
  readonly size: (own: number) => number;
  /** a difference from what is right, at the working value */
  readonly off: (own: number) => number;
  /** what was typed, in the family's unit. @throws Refusal what the scale refuses */
  readonly ownValue: (written: number, at?: Conditions) => number;
  readonly ownSize: (written: number) => number;
}

/** Share of a working value, or of a tolerance, over which a scale is taken for straight. */
const NEARBY = 1e-3;

/**
 * How the figures of a loop are written.
 *
 * Widths go by the slope of the scale at the working value. A scale that is unknown to the family is the family's own: a record
 * may come from elsewhere.
 *
 * @example writtenIn(familyOf('conductivity'), modelOf(familyOf('conductivity')), { workingValue: 1900, workingC: 22, tolerance: 60, shownAs: { scale: 'ppm×700', step: 10 } }).value(1907) // 1330
 */
export function writtenIn(family: Family, model: Model, loop: WorksAt): Written {
  const { workingValue, workingC, tolerance, shownAs = AS_OWN } = loop;
  const scale = unlessRefused(() => scaleOf(model, shownAs.scale)) ?? scaleOf(model, '');
  const working: Conditions = { temperatureC: workingC };
  const own = scale.id === model.valueUnit;
  const step = shownAs.step;
  const slope = own ? 1 : (slopeAt(scale.of, workingValue, tolerance, working) ?? 1);
  const exact = (value: number, at: Conditions = working) => {
    const made = own ? value : unlessRefused(() => scale.of(value, at));
    return made !== null && Number.isFinite(made) ? made : null;
  };
  const size = (width: number) => Math.abs(slope) * width;
  const toStep = (value: number) =>
    step === null ? value : Number((Math.round(value / step) * step).toFixed(decimalsOf(step)));
  const digits = own ? (family.shown.digits ?? digitsFor(tolerance)) : digitsFor(size(tolerance));
  const valueDigits = step === null ? digits : decimalsOf(step);
  const here = exact(workingValue);
  return {
    unit: scale.id,
    step,
    digits,
    valueDigits,
    own,
    falls: slope < 0,
    worksAt: own || here === null ? String(workingValue) : toStep(here).toFixed(valueDigits),
    value: (value, at) => {
      const made = exact(value, at);
      return made === null ? null : toStep(made);
    },
    exact,
    size,
    off: (error) => {
      if (own || here === null) return slope * error;
      const there = exact(workingValue + error);
      return there === null ? slope * error : there - here;
    },
    ownValue: (written, at = working) => (own ? written : scale.own(written, at)),
    ownSize: (written) => written / Math.abs(slope),
  };
}

/** Change of the written value for one own; null where the scale has no value there. */
function slopeAt(
  of: (own: number, at: Conditions) => number,
  value: number,
  tolerance: number,
  at: Conditions,
): number | null {
  const half = NEARBY * Math.max(Math.abs(value), tolerance);
  return unlessRefused(() => (of(value + half, at) - of(value - half, at)) / (2 * half));
}

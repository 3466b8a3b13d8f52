import { familyOf } from '../families/registry.ts';
import type { Settings } from '../sensor/family.ts';
import { scaleOf, type ShownAs } from '../sensor/scale.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { writtenIn } from '../sensor/written.ts';

/** A figure that was typed, or what stands there instead of one. */
type Cell = number | string | undefined;

interface Works {
  readonly family: string;
  readonly settings: Settings;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
}

/** So little is lost on the way into a scale and back, as a share. */
const SAME_SHARE = 1e-6;

/**
 * Figures of a loop as they are written in its scale, with more digits than anybody types, so that they come back as they were.
 *
 * @example figuresOut({ family: 'temperature', settings: {}, workingValue: 25, workingC: 25, tolerance: 0.5, shownAs: { scale: '°F', step: null } }) // { workingValue: 77, tolerance: 0.9 }
 */
export function figuresOut(loop: Works & { readonly shownAs: ShownAs }) {
  const family = familyOf(loop.family);
  const written = writtenIn(family, modelOf(family, loop.settings), loop);
  const plain = (value: number) => Number(value.toPrecision(12));
  return {
    workingValue: plain(written.exact(loop.workingValue) ?? NaN),
    tolerance: plain(written.size(loop.tolerance)),
    unit: written.unit,
  };
}

/**
 * The same in the family's own unit. Text that is not a figure stays as it is, and the checks that follow name it.
 *
 * @throws Refusal `family-unknown`, `scale-unknown`, and what the scale refuses: a gravity that no sea water has
 * @param kept the loop that is there, if it is: figures that say the same are its own, to the last digit
 * @example figuresIn({ family: 'temperature', settings: {}, workingC: 25, scale: '°F' }, { workingValue: 77, tolerance: 0.9 }, null) // { workingValue: 25, tolerance: 0.5 }
 */
export function figuresIn(
  of: { readonly family: string; readonly settings: Settings; readonly workingC: Cell; readonly scale: string },
  typed: { readonly workingValue: Cell; readonly tolerance: Cell },
  kept: Works | null,
): { readonly workingValue: Cell; readonly tolerance: Cell } {
  const family = familyOf(of.family);
  const model = modelOf(family, of.settings);
  const workingC = typeof of.workingC === 'number' ? of.workingC : (kept?.workingC ?? 25);
  const scale = scaleOf(model, of.scale);
  const { workingValue: works, tolerance } = typed;
  const workingValue = typeof works === 'number' ? scale.own(works, { temperatureC: workingC }) : works;
  const at = typeof workingValue === 'number' ? workingValue : (kept?.workingValue ?? NaN);
  const shownAs = { scale: of.scale, step: null };
  const written = writtenIn(family, model, { workingValue: at, workingC, tolerance: 0, shownAs });
  const made = { workingValue, tolerance: typeof tolerance === 'number' ? written.ownSize(tolerance) : tolerance };
  const same = (value: Cell, was: number | undefined) =>
    typeof value === 'number' && was !== undefined && Math.abs(value - was) <= SAME_SHARE * Math.abs(was) ? was : value;
  return {
    workingValue: same(made.workingValue, kept?.workingValue),
    tolerance: same(made.tolerance, kept?.tolerance),
  };
}

/**
 * How an instrument writes, from a unit that was picked: the family's own by its name is as good as none.
 *
 * @example shownAsIn('ph', {}, 'pH', 0.01) // { scale: '', step: 0.01 }
 */
export const shownAsIn = (family: string, settings: Settings, unit: string, step: Cell) => ({
  scale: unlessRefused(() => modelOf(familyOf(family), settings).valueUnit === unit) ? '' : unit,
  step: step === '' || step === undefined ? null : step,
});

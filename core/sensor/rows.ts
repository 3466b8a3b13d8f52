import type { Coefficients } from './coefficients.ts';
import type { Model, WorkingPoint } from './family.ts';
import type { SensorCalibration, Source } from './calibration.ts';
import { shownErrorOf } from './shown-error.ts';
import { shownValue, signalOf } from './sensor.ts';
import { LOOP_THERMOMETER_C, moveOf, unlessRefused } from './sources.ts';

/** One thing that is not known well, and what it does to the shown error at the working point. */
export interface ErrorRow {
  readonly name: string;
  /** one standard uncertainty of the source, in its own unit */
  readonly uncertainty: number;
  readonly unit: string;
  readonly distribution: 'normal' | 'rectangular';
  readonly degreesOfFreedom: number;
  /** by how much the shown error changes when the source is off by one standard uncertainty, with its sign; unit of the value */
  readonly change: number;
}

/** What a calibration left behind, as far as the error at work depends on it. */
type Found = Pick<SensorCalibration, 'coefficients' | 'sources' | 'inputs' | 'refit'>;

/** Name of the row of a thermometer that stood in the cups and compensates at work. */
export const ONE_THERMOMETER = 'thermometer of the loop, in the cups and at work';

/**
 * Every row of the error that a channel shows at its working point: what the calibration left unknown, the loop's own
 * thermometer, and what no standard can take away. Bench, record, cone, chance of being outside and due date are all
 * made from these.
 *
 * A thermometer that stood in the cups and compensates at work is one row: what it does in the one place mostly takes
 * away what it does in the other.
 *
 * @param inForce what the channel reckons with; the coefficients that were found = the error after this calibration
 * @returns independent of each other, so that they add in squares
 * @throws Refusal when the working point lies outside the family's range
 * @see JCGM 100:2008, 5.1 and F.1.2.3 (what is shared is one source)
 * @example errorRowsOf(modelOf(familyOf('ph')), phFit, phFit.coefficients, { value: 8.2, temperatureC: 25, calibrationC: 25 })[0].name // 'value of 7.00'
 */
export function errorRowsOf(model: Model, found: Found, inForce: Coefficients, at: WorkingPoint): readonly ErrorRow[] {
  const { coefficients, sources, inputs, refit } = found;
  const thermometer = thermometerChange(model, coefficients, inForce, at);
  let together = false;
  const rows = sources.map((source): ErrorRow => {
    const change = changeBy(model, at, coefficients, moveOf(source, inputs, refit), inForce);
    if (!source.ofLoop) return rowOf(source, source.name, change);
    together = true;
    return rowOf(source, ONE_THERMOMETER, change + thermometer);
  });
  return [...rows, ...(together ? [] : loopThermometer(thermometer)), ...workingRowsOf(model, inForce, at)];
}

/**
 * The rows that no run of this sensor takes away, and that every moment between runs has: the loop's thermometer, the
 * junction, the water's coefficient, its composition.
 *
 * @param ofLoop what one standard uncertainty of the loop's thermometer does to what was found, where it stood in the cups
 * @throws Refusal as `errorRowsOf`
 */
export function standingRowsOf(
  model: Model,
  coefficients: Coefficients,
  inForce: Coefficients,
  at: WorkingPoint,
  ofLoop?: Coefficients,
): readonly ErrorRow[] {
  const thermometer = thermometerChange(model, coefficients, inForce, at);
  const rest = workingRowsOf(model, inForce, at);
  if (!ofLoop) return [...loopThermometer(thermometer), ...rest];
  const change = thermometer + changeBy(model, at, coefficients, ofLoop, inForce);
  return [...loopThermometer(change, ONE_THERMOMETER), ...rest];
}

/**
 * What it does to the shown error that the sensor was found off by so much: the true one lies on the other side of what an
 * input that reads too high makes of it.
 */
function changeBy(
  model: Model,
  at: WorkingPoint,
  found: Coefficients,
  by: Coefficients,
  inForce: Coefficients,
): number {
  const error = (sign: number) =>
    unlessRefused(() => {
      const [zero, sensitivity] = [found.zero + sign * by.zero, found.sensitivity + sign * by.sensitivity];
      return shownErrorOf(model, at, { ...found, zero, sensitivity }, inForce);
    });
  return halfWay(error(-1), error(1), () => shownErrorOf(model, at, found, inForce));
}

/** Combined standard uncertainty of rows, in the unit of the value. */
export const combinedOf = (rows: readonly ErrorRow[]): number => Math.hypot(...rows.map((r) => r.change));

const rowOf = (source: Source, name: string, change: number): ErrorRow => ({
  name,
  uncertainty: source.uncertainty,
  unit: source.unit,
  distribution: source.distribution,
  degreesOfFreedom: source.degreesOfFreedom,
  change,
});

function loopThermometer(change: number, name = 'thermometer of the loop'): readonly ErrorRow[] {
  if (change === 0) return [];
  const [unit, distribution] = ['°C', 'normal'] as const;
  return [{ name, uncertainty: LOOP_THERMOMETER_C, unit, distribution, degreesOfFreedom: Infinity, change }];
}

const workingRowsOf = (model: Model, inForce: Coefficients, at: WorkingPoint): readonly ErrorRow[] =>
  model
    .workingRows(at)
    .filter((r) => r.uncertainty > 0)
    .map(({ name, uncertainty, ofSignal }) => ({
      name,
      uncertainty,
      unit: ofSignal ? model.signalUnit : model.valueUnit,
      distribution: 'normal',
      degreesOfFreedom: Infinity,
      change: ofSignal ? signalChange(model, inForce, at, uncertainty) : uncertainty,
    }));

/** What so much more of the signal does to what is shown. */
function signalChange(model: Model, inForce: Coefficients, at: WorkingPoint, by: number): number {
  const signal = signalOf(model, at.value, at, inForce);
  const shown = (off: number) => unlessRefused(() => shownValue(model, signal + off, at, inForce));
  return halfWay(shown(by), shown(-by), () => shown(0) ?? NaN) || 0;
}

/** What the loop's thermometer does to what is shown, off by one standard uncertainty. */
function thermometerChange(model: Model, actual: Coefficients, inForce: Coefficients, at: WorkingPoint): number {
  const signal = signalOf(model, at.value, at, actual);
  const shown = (off: number) =>
    unlessRefused(() => shownValue(model, signal, { ...at, temperatureC: at.temperatureC + off }, inForce));
  return halfWay(shown(LOOP_THERMOMETER_C), shown(-LOOP_THERMOMETER_C), () => shown(0) ?? NaN) || 0;
}

/** Half the way from the one to the other, or all of the way to the one that there is; 0 where there is neither. */
function halfWay(up: number | null, down: number | null, here: () => number): number {
  if (up !== null && down !== null) return (up - down) / 2;
  if (up !== null) return up - here();
  return down !== null ? here() - down : 0;
}

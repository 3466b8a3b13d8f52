import { Refusal } from '../quantities/refusal.ts';
import type { Free } from './calibration.ts';
import type { Model } from './family.ts';
import type { StandardPoint } from './standard-point.ts';
import type { FitInputs, Source } from './calibration.ts';
import type { Coefficients } from './coefficients.ts';

/** Standard uncertainty of the thermometer in the cup, common to all points, °C. Common practice, no source. */
const CUP_THERMOMETER_C = 0.2;

/** Standard uncertainty of the thermometer that compensates the loop, °C. Common practice, no source. */
export const LOOP_THERMOMETER_C = 0.2;

/** Adds `by` to every entry that is meant. */
const moved = (list: readonly number[], by: number, meant: (k: number) => boolean) =>
  list.map((v, k) => (meant(k) ? v + by : v));

/** A source that may be none: rounding of a table without steps, a lot that was just opened. */
const known = (source: Omit<Source, 'distribution' | 'degreesOfFreedom'> & Partial<Source>): readonly Source[] =>
  source.uncertainty > 0 ? [{ distribution: 'normal', degreesOfFreedom: Infinity, ...source }] : [];

/** Each bottle: its certificate and its age, shared by all points that were poured from it. */
function ofLots(points: readonly StandardPoint[]): readonly Source[] {
  const lots = new Map<string, number[]>();
  points.forEach((p, k) => {
    const key = p.lotId || `point ${k}`;
    lots.set(key, [...(lots.get(key) ?? []), k]);
  });
  return [...lots.values()].flatMap((members) => {
    const { standard } = points[members[0]!]!;
    const unit = standard.unit ?? 'pH';
    // One lot at two temperatures is off by the same share of its certificate's ±.
    const share = (k: number) => points[k]!.standard.uncertainty / (standard.uncertainty || 1);
    return [
      ...known({
        name: `value of ${standard.name}`,
        unit,
        uncertainty: standard.uncertainty,
        move: (i, by) => ({
          ...i,
          shifts: i.shifts.map((s, k) => (members.includes(k) ? s + by * share(k) : s)),
        }),
      }),
      ...known({
        name: `age of the opened ${standard.name}`,
        unit,
        uncertainty: Math.max(0, ...members.map((k) => points[k]!.ageUncertainty ?? 0)),
        move: (i, by) => ({ ...i, shifts: moved(i.shifts, by, (k) => members.includes(k)) }),
      }),
    ];
  });
}

/** One point: rounding of its table, settling, and the channel's step. */
function ofPoint({ signalUnit }: Model, p: StandardPoint, k: number): readonly Source[] {
  const { standard } = p;
  const own = (j: number) => j === k;
  const signal: Source['move'] = (i, by) => ({ ...i, signals: moved(i.signals, by, own) });
  return [
    ...known({
      name: `rounding in the table of ${standard.name}`,
      unit: standard.unit ?? 'pH',
      uncertainty: standard.tableStep / Math.sqrt(12),
      distribution: 'rectangular',
      move: (i, by) => ({ ...i, shifts: moved(i.shifts, by, own) }),
    }),
    ...known({
      name: `settling in ${standard.name}`,
      unit: signalUnit,
      uncertainty: p.signalUncertainty,
      degreesOfFreedom: p.signalFreedom ?? Infinity,
      move: signal,
    }),
    ...known({
      name: `agreement of the settlings in ${standard.name}`,
      unit: signalUnit,
      uncertainty: p.repeatability?.uncertainty ?? 0,
      degreesOfFreedom: p.repeatability?.degreesOfFreedom ?? Infinity,
      move: signal,
    }),
    ...known({
      name: `step of the channel in ${standard.name}`,
      unit: signalUnit,
      uncertainty: (p.resolution ?? 0) / Math.sqrt(12),
      distribution: 'rectangular',
      move: signal,
    }),
  ];
}

/**
 * Everything that is not known well in a set of points: bottles and their age, the thermometer in the cup, rounding,
 * settling, the channel's step, and a parameter that was held.
 */
export function sourcesOf(
  model: Model,
  points: readonly StandardPoint[],
  free: Free,
  heldUncertainty: number,
): readonly Source[] {
  const own = points.map((p) => p.byLoopThermometer === true);
  const warmer =
    (meant: (k: number) => boolean): Source['move'] =>
    (i, by) => ({
      ...i,
      temperaturesC: moved(i.temperaturesC, by, meant),
    });
  const thermometer = own.every(Boolean)
    ? []
    : known({
        name: 'thermometer in the cup',
        unit: '°C',
        uncertainty: CUP_THERMOMETER_C,
        move: warmer((k) => !own[k]),
      });
  const loops = own.some(Boolean)
    ? known({
        name: 'thermometer of the loop, in the cups',
        unit: '°C',
        uncertainty: LOOP_THERMOMETER_C,
        ofLoop: true,
        move: warmer((k) => own[k]!),
      })
    : [];
  const held = free === 'zero' ? 'sensitivity' : 'zero';
  const heldFromBefore =
    free === 'both'
      ? []
      : known({
          name: `${held} held from before`,
          unit: held === 'zero' ? model.signalUnit : '',
          uncertainty: heldUncertainty,
          move: (i, by) => ({ ...i, held: { ...i.held, [held]: i.held[held] + by } }),
        });
  return [
    ...ofLots(points),
    ...thermometer,
    ...loops,
    ...points.flatMap((p, k) => ofPoint(model, p, k)),
    ...heldFromBefore,
  ];
}

/**
 * How far zero and sensitivity move when one source is off by one standard uncertainty: half the way from − to +, or
 * all of the way to the one side that the family's validity leaves.
 */
export function moveOf(source: Source, inputs: FitInputs, refit: (i: FitInputs) => Coefficients): Coefficients {
  const up = unlessRefused(() => refit(source.move(inputs, source.uncertainty)));
  const down = unlessRefused(() => refit(source.move(inputs, -source.uncertainty)));
  const from = down ?? refit(inputs);
  const to = up ?? refit(inputs);
  const steps = up && down ? 2 : 1;
  return { zero: (to.zero - from.zero) / steps, sensitivity: (to.sensitivity - from.sensitivity) / steps };
}

/** What a look just beyond a family's validity gives: nothing, instead of an end to everything. */
export function unlessRefused<T>(look: () => T): T | null {
  try {
    return look();
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

import { rtdResistance, type NominalOhms } from '../electrical/resistance-thermometer.ts';
import { thermistorResistance, type SteinhartHart } from '../electrical/thermistor.ts';
import { spanTable, type SpanTable } from '../electrical/span-table.ts';
import { convertTo, isUnit } from '../quantities/units.ts';
import { grabSample } from '../solutions/sample.ts';
import type { Standard } from '../solutions/standard.ts';
import type { Reason } from './doubts.ts';
import type { RunState } from './state.ts';
import { digitsFor } from '../sensor/written.ts';
import { familyOfPlan } from './plan.ts';

/** A box of an electrical check as it is planned. */
export interface BoxPoint {
  readonly label: string;
  /** what it stands for, in the unit of the channel */
  readonly applied: number;
  readonly use: 'adjust' | 'verify';
}

/** A box is known to a thousandth of what it stands for, k = 2. Common practice, no source. */
const BOX_SHARE = 0.001;

/**
 * A box as the standard of its point.
 *
 * @example boxStandard({ label: '-177.5 mV', applied: -177.5, use: 'verify' }, 'mV').nominal // -177.5
 */
export function boxStandard({ label, applied }: BoxPoint, unit: string): Standard {
  const known = isUnit(unit) ? unit : 'mV';
  const made = grabSample('electrical', applied, known, Math.max(1e-6, BOX_SHARE * Math.abs(applied)), 25);
  return { ...made, id: `box-${label}`, name: label, source: 'a simulator box' };
}

/** What the boxes of a channel depend on besides its unit. */
interface BoxedChannel {
  /** of a cell, 1/cm: what is dialled is a resistance */
  readonly cellConstant?: number;
  /** of a thermometer, as its family's setting names it; one that is not platinum has a table of its own */
  readonly element?: string;
  /** one by three rows of its table */
  readonly thermistor?: SteinhartHart | null;
  /** the channel's own range, in its unit */
  readonly low?: number | null;
  readonly high?: number | null;
}

/** Glass at 25 °C, mV a pH: what a box must give where a display shows pH. */
const MV_A_PH = 59.16;
/** Resistance at 0 °C of the elements whose table is IEC 60751's, Ω. */
const PLATINUM: Readonly<Record<string, NominalOhms>> = { Pt100: 100, Pt1000: 1000 };

/** "4.73 kΩ": three figures are what a decade box is set to. */
function ohms(value: number): string {
  const [by, unit] = value >= 1e6 ? [1e6, 'MΩ'] : value >= 1e3 ? [1e3, 'kΩ'] : [1, 'Ω'];
  return `${Number((value / by).toPrecision(3))} ${unit}`;
}

const figure = (value: number) => `${value < 0 ? '−' : ''}${Math.abs(value)}`;

/**
 * Boxes that a team usually has for a channel in this unit, low to high, named by what one dials: examples, to be edited.
 *
 * @returns none where no box stands for what the channel gives: a count, a concentration
 * @example usualBoxes('µS/cm', { cellConstant: 1 })[1].label // '1 kΩ'
 * @example usualBoxes('°C')[1].label // '1097.3 Ω, Pt1000'
 * @example usualBoxes('°C', { element: 'Pt100' })[1].label // '109.73 Ω, Pt100'
 * @example usualBoxes('°C', { thermistor: thermistorOf({ element: 'thermistor' }) })[1].label // '10000 Ω, thermistor'
 */
export function usualBoxes(unit: string, of: BoxedChannel = {}): readonly BoxPoint[] {
  const { cellConstant = 1, element = 'Pt1000', thermistor = null, low = null, high = null } = of;
  const points = (values: readonly number[], label: (v: number) => string): BoxPoint[] =>
    values.map((applied, i) => ({ label: label(applied), applied, use: i === 1 ? 'verify' : 'adjust' }));
  if (unit === 'mV') {
    // A tenth inside the ends of the channel's own range.
    const inside = (share: number) => Math.round(low! + share * (high! - low!));
    const own = low !== null && high !== null ? [0.1, 0.5, 0.9].map(inside) : [-150, 0, 150];
    return points(own, (v) => `${figure(v)} mV`);
  }
  if (unit === 'pH') return points([4, 7, 10], (v) => `${figure(Math.round(10 * MV_A_PH * (7 - v)) / 10)} mV`);
  if (unit === '°C') {
    const nominal = PLATINUM[element];
    if (thermistor)
      return points([5, 25, 45], (v) => `${Number(thermistorResistance(thermistor, v).toPrecision(4))} Ω, thermistor`);
    return points([5, 25, 60], (v) =>
      nominal ? `${rtdResistance(v, nominal).toFixed(nominal === 100 ? 2 : 1)} Ω, ${element}` : `${v} °C by its table`,
    );
  }
  if (unit === 'µS') return points([100, 1000, 5000], (v) => ohms(1e6 / v));
  // Of ultra-pure water the resistance itself is told: 18.2 MΩ·cm is the purest there is.
  if (unit === 'MΩ·cm') return points([1, 10, 18], (v) => ohms(1e6 * v * cellConstant));
  if (isUnit(unit) && convertTo(1, unit, 'µS/cm') !== null) {
    const to = (us: number) => convertTo(us, 'µS/cm', unit)!;
    return points([100, 1000, 5000].map(to), (v) => ohms((1e6 * cellConstant) / convertTo(v, unit, 'µS/cm')!));
  }
  return [];
}

/** As found and as left at each box, in % of the transmitter's span, or of what the boxes cover where nobody knows it. */
export function spanOf(state: RunState): SpanTable {
  const { plan } = state;
  const applied = plan.points.map((p) => p.standard.nominal);
  const covered = Math.max(...applied) - Math.min(...applied) || Math.abs(applied[0] ?? 0) || 1;
  const span = plan.span ?? covered;
  const shown = (i: number, purpose: 'as-found' | 'as-left') =>
    state.captures.findLast((c) => c.pointIndex === i && c.purpose === purpose)?.signal ?? null;
  return spanTable(
    plan.points.map(({ standard, role }, i) => ({
      label: standard.name,
      use: role === 'verify' ? 'verify' : 'adjust',
      applied: standard.nominal,
      asFound: shown(i, 'as-found'),
      asLeft: shown(i, 'as-left'),
    })),
    span,
    plan.tolerance,
  );
}

/** What an electrical check says to do: the limit is the plan's tolerance, in % of span. */
export function spanVerdict(state: RunState): {
  action: 'leave' | 'adjust' | 'investigate';
  sentence: string;
  reasons: Reason[];
} {
  const { rows, worstFound } = spanOf(state);
  const limit = state.plan.tolerance;
  const unit = familyOfPlan(state.plan).model.valueUnit;
  const applied = state.plan.points.map((p) => p.standard.nominal);
  // A thousandth of the span is worth a digit.
  const digits = digitsFor((Math.max(...applied) - Math.min(...applied) || 1) / 1000);
  const percent = (x: number) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(2)} %`;
  const out = rows.filter((r) => r.found && !r.found.inside);
  const reasons = (out.length ? out : rows).flatMap((r): Reason[] =>
    r.found
      ? [
          {
            code: r.found.inside ? 'span-inside' : 'span-outside',
            value: r.found.percentOfSpan,
            limit,
            text: `${r.label}: shown ${r.asFound!.toFixed(digits)} for ${r.applied.toFixed(digits)} ${unit}, ${percent(r.found.percentOfSpan)} of span${r.use === 'verify' ? ', only looked at' : ''}; limit ${limit} %.`,
          },
        ]
      : [],
  );
  if (!out.length)
    return {
      action: 'leave',
      sentence: `Leave it: at most ${percent(worstFound ?? 0)} of span, limit ${limit} %.`,
      reasons,
    };
  if (out.every((r) => r.use === 'verify'))
    return {
      action: 'investigate',
      sentence: 'Investigate it: what may be adjusted is right, and what is only looked at is not.',
      reasons,
    };
  return { action: 'adjust', sentence: `Adjust it: ${percent(worstFound!)} of span, limit ${limit} %.`, reasons };
}

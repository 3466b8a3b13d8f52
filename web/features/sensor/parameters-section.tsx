import type { PastRun } from '@frustum/core';
import type { SensorView } from '@frustum/contract';
import TrendChart, { type TrendPoint } from '../../charts/trend-chart.tsx';
import { dayOf } from '../../format/dates.ts';
import { inFamily, upper } from '../../format/in-family.ts';

/** From this chance on a jump is shown. */
const JUMPED = 0.5;
const TWO = 2;

/** Zero and sensitivity through all runs: what each found, and where all of them together place it. */
export function ParametersSection({ view }: { view: SensorView }) {
  const { row, past, services } = view;
  if (past.length < 2) return null;
  const figures = inFamily(row);
  const { family } = figures;
  const { limits } = row;
  const marks = [
    ...services.map((s) => ({ t: Date.parse(s.at), dashed: false })),
    ...past.filter((p) => p.jumped > JUMPED).map((p) => ({ t: p.atMs, dashed: true })),
  ];
  const jumps = past.filter((p) => p.jumped > JUMPED);
  const of = (key: 'zero' | 'sensitivity', times: number) =>
    past.map((p: PastRun): TrendPoint => {
      const sd = `${key}Sd` as const;
      return {
        t: p.atMs,
        value: times * p.found[key],
        spread: TWO * times * p.found[sd],
        band: [times * (p.known[key] - TWO * p.known[sd]), times * (p.known[key] + TWO * p.known[sd])],
      };
    });
  return (
    <div className="border-t border-base-300 mt-5 pt-4">
      <div className="grid lg:grid-cols-2 gap-x-8">
        <section aria-label={upper(family.zero.name)}>
          <h2>
            {upper(family.zero.name)}, {figures.signalUnit}
          </h2>
          <TrendChart
            points={of('zero', 1)}
            limits={Number.isFinite(limits.zero) ? [-limits.zero, limits.zero] : null}
            digits={figures.signalDigits > 1 ? 1 : 0}
            marks={marks}
            label={`${upper(family.zero.name)} over ${past.length} runs`}
          />
        </section>
        <section aria-label={upper(family.sensitivity.name)}>
          <h2>{upper(family.sensitivity.name)}, %</h2>
          <TrendChart
            points={of('sensitivity', 100)}
            limits={[100 * limits.sensitivityLow, 100 * limits.sensitivityHigh]}
            digits={0}
            marks={marks}
            label={`${upper(family.sensitivity.name)} over ${past.length} runs`}
          />
        </section>
      </div>
      <p className="sub text-sm">
        Dots: what each run found, ± two standard uncertainties. Band: where all runs together place it, 95 %. Lines
        across: limits of practice{services.length ? ', services' : ''}
        {jumps.length ? `, and dashed a jump (${jumps.map((p) => dayOf(p.atMs)).join(', ')})` : ''}.{' '}
        {row.learnedFrom.sensors
          ? `How such sensors drift was learned from ${row.learnedFrom.runs} runs of ${row.learnedFrom.sensors} sensors of this house.`
          : 'How such sensors drift is taken from practice: this house has too few runs to learn from.'}
      </p>
    </div>
  );
}

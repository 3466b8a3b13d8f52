import type { PastRun } from '@frustum/core';
import type { DrawnRow, SensorView, ServiceRow } from '@frustum/contract';
import TrendChart, { type TrendPoint } from '../../charts/trend-chart.tsx';
import { dayOf } from '../../format/dates.ts';
import { inFamily, upper } from '../../format/in-family.ts';
import { SaveFigure, type FigureTable } from '../../ui/save-figure.tsx';
import { fixed } from '../../format/numbers.ts';

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
          <SaveFigure name={`${row.loopName}, ${family.zero.name}`} table={() => tableOf(of('zero', 1))}>
            <TrendChart
              points={of('zero', 1)}
              limits={Number.isFinite(limits.zero) ? [-limits.zero, limits.zero] : null}
              digits={figures.signalDigits > 1 ? 1 : 0}
              marks={marks}
              label={`${upper(family.zero.name)} over ${past.length} runs`}
            />
          </SaveFigure>
        </section>
        <section aria-label={upper(family.sensitivity.name)}>
          <h2>{upper(family.sensitivity.name)}, %</h2>
          <SaveFigure
            name={`${row.loopName}, ${family.sensitivity.name}`}
            table={() => tableOf(of('sensitivity', 100))}
          >
            <TrendChart
              points={of('sensitivity', 100)}
              limits={[100 * limits.sensitivityLow, 100 * limits.sensitivityHigh]}
              digits={0}
              marks={marks}
              label={`${upper(family.sensitivity.name)} over ${past.length} runs`}
            />
          </SaveFigure>
        </section>
      </div>
      <LimitsAhead view={view} />
      <WhatIsDrawn services={services} jumps={jumps} row={row} />
    </div>
  );
}

function WhatIsDrawn({ services, jumps, row }: { services: readonly ServiceRow[]; jumps: PastRun[]; row: DrawnRow }) {
  return (
    <p className="sub text-sm">
      Dots: what each run found, ± two standard uncertainties. Band: where all runs together place it, 95 %. Lines
      across: limits of practice{services.length ? ', services' : ''}
      {jumps.length ? `, and dashed a jump (${jumps.map((p) => dayOf(p.atMs)).join(', ')})` : ''}.{' '}
      {row.learnedFrom.sensors
        ? `How such sensors drift was learned from ${row.learnedFrom.runs} runs of ${row.learnedFrom.sensors} sensors of this house${row.learnedFrom.ofModel ? `, and on top of that from the ${row.learnedFrom.ofModel} of its model` : ''}.`
        : 'How such sensors drift is taken from practice: this house has too few runs to learn from.'}
    </p>
  );
}

const tableOf = (points: readonly TrendPoint[]): FigureTable => ({
  heading: ['time', 'found', '± two standard uncertainties', 'placed from', 'placed to'],
  rows: points.map((p) => [new Date(p.t).toISOString(), p.value, p.spread, ...p.band]),
});

/** When a limit of practice is met by the forecast, and what is left of the electrolyte. */
function LimitsAhead({ view: { row, limitsAhead, electrolyteLeft, nowMs } }: { view: SensorView }) {
  const figures = inFamily(row);
  const { family } = figures;
  const day = (ms: number | null) => (ms === null ? 'more than three years' : dayOf(ms));
  return (
    <ul className="text-[15px] mt-1 mb-2">
      {limitsAhead.map(({ what, limit, earlyMs, midMs, lateMs }) => (
        <li key={what}>
          <b className="font-semibold">{upper(family[what].name)}</b>{' '}
          {midMs! <= nowMs ? 'is beyond' : 'is forecast to meet'} its limit of{' '}
          <span className="fig">
            {what === 'zero' ? `${figures.signal(limit)} ${figures.signalUnit}` : `${fixed(100 * limit, 0)} %`}
          </span>
          {midMs! > nowMs && ` about ${dayOf(midMs!)} (90 %: ${day(earlyMs)} to ${day(lateMs)})`}.
        </li>
      ))}
      {limitsAhead.length === 0 && <li className="sub">By the forecast neither meets its limit within three years.</li>}
      {electrolyteLeft && (
        <li>
          <b className="font-semibold">Electrolyte</b>: about{' '}
          <span className="fig">{fixed(electrolyteLeft.mid, 1)} mol/kg</span> KCl left (95 %:{' '}
          <span className="fig">
            {fixed(electrolyteLeft.low, 1)} to {fixed(electrolyteLeft.high, 1)}
          </span>
          ), if it was 3 mol/kg at the first run and dilution alone has moved the zero.
        </li>
      )}
    </ul>
  );
}

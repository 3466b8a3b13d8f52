import { useState } from 'react';
import { cusum, ewma, runRules, type PastRun } from '@frustum/core';
import type { DrawnRow, SensorView } from '@frustum/contract';
import ControlChart from '../../charts/control-chart.tsx';
import { dayOf } from '../../format/dates.ts';
import { inFamily, upper } from '../../format/in-family.ts';
import { SaveFigure } from '../../ui/save-figure.tsx';
import { fixed } from '../../format/numbers.ts';

/** Weight of the newest, and limits of the average: NIST/SEMATECH e-Handbook 6.3.2.4. */
const LAMBDA = 0.3;
/** Slack of half a standard deviation, and the sum that signals: NIST/SEMATECH e-Handbook 6.3.2.3. */
const SLACK = 0.5;
const SIGNALS_AT = 5;
const MIN_RUNS = 4;

/** One figure of the runs against what was expected of it: their average, their sums, and the runs that are out. */
function kindsOf(row: DrawnRow, later: readonly PastRun[]) {
  const { family } = inFamily(row);
  const hasSensitivity = row.cone.marks.length > 0 && later.some((p) => p.standardised[1] !== 0);
  return [
    { name: family.zero.name, at: 0 as const },
    ...(hasSensitivity ? [{ name: family.sensitivity.name, at: 1 as const }] : []),
  ].map(({ name, at }) => {
    const series = later.map((p) => p.standardised[at]);
    const average = ewma(series, 0, 1, LAMBDA);
    const sums = cusum(series, 0, SLACK, SIGNALS_AT);
    const rules = runRules(series);
    const out = later.filter((_, i) => average[i]!.out || sums[i]!.out || rules[i]!.length);
    return { name, series, average, sums, rules, out };
  });
}
type ControlKind = ReturnType<typeof kindsOf>[number];

/** For those who work by control charts: found less expected, over its spread, so that the runs are independent. */
export function ControlSection({ view: { past, row } }: { view: SensorView }) {
  const [open, setOpen] = useState(false);
  // The first run has nothing to be compared with.
  const later = past.slice(1);
  if (later.length < MIN_RUNS) return null;
  const kinds = kindsOf(row, later);
  const words = kinds
    .map(({ name, out }) =>
      out.length
        ? `${upper(name)} moved more than the engine expects, from ${dayOf(out[0]!.atMs)} on.`
        : `${upper(name)}: every run within what was expected.`,
    )
    .join(' ');
  return (
    <details
      className="border-t border-base-300 mt-5 pt-4"
      open={open}
      onToggle={(e) => setOpen(e.currentTarget.open)}
      aria-label="Control charts"
    >
      <summary className="cursor-pointer min-h-6">
        <b className="font-semibold">Control charts.</b> <span className="sub">{words}</span>
      </summary>
      {open && (
        <>
          <div className="grid lg:grid-cols-2 gap-x-8 mt-3">
            {kinds.map(({ name, series, average, sums }) => (
              <KindChart key={name} name={name} row={row} later={later} series={series} average={average} sums={sums} />
            ))}
          </div>
          <div className="overflow-x-auto">
            <RunsTable kinds={kinds} later={later} />
          </div>
          <p className="sub text-sm mt-2">
            Bars: each run. Line: exponentially weighted average, λ {LAMBDA}, with its limits at three standard
            deviations. Sums: CUSUM with a slack of {SLACK}, signals above {SIGNALS_AT}. Run rules: one beyond 3, two of
            three beyond 2, four of five beyond 1, eight on one side. NIST/SEMATECH e-Handbook 6.3.2.
          </p>
        </>
      )}
    </details>
  );
}

function KindChart({
  name,
  row,
  later,
  series,
  average,
  sums,
}: {
  name: string;
  row: DrawnRow;
  later: PastRun[];
  series: readonly number[];
  average: ControlKind['average'];
  sums: ControlKind['sums'];
}) {
  return (
    <section aria-label={`Control chart, ${name}`}>
      <h2>{upper(name)}: found less expected, in its standard deviations</h2>
      <SaveFigure
        name={`${row.loopName}, control chart of ${name}`}
        table={() => ({
          heading: ['run', 'found less expected', 'average', 'sum up', 'sum down'],
          rows: later.map((p, i) => [
            new Date(p.atMs).toISOString(),
            series[i]!,
            average[i]!.value,
            sums[i]!.upper,
            sums[i]!.lower,
          ]),
        })}
      >
        <ControlChart
          points={later.map((p, i) => ({ t: p.atMs, value: series[i]!, average: average[i]!.value }))}
          limit={average[0]!.high}
          label={`${upper(name)}: ${series.length} runs against what was expected of them`}
        />
      </SaveFigure>
    </section>
  );
}

function RunsTable({ kinds, later }: { kinds: readonly ControlKind[]; later: SensorView['past'] }) {
  return (
    <table className="text-[15px] mt-2 min-w-[560px]">
      <thead>
        <tr className="sub text-[13px] text-right">
          <th className="font-normal text-left py-1.5 pr-8">run</th>
          {kinds.map(({ name }) => (
            <th key={name} className="font-normal pl-6" colSpan={3}>
              {name}: off, average, sums up and down
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {later.map((p, i) => (
          <tr key={p.atMs} className="border-t border-base-300 text-right">
            <td className="text-left py-1 pr-8">{dayOf(p.atMs)}</td>
            {kinds.flatMap(({ name, series, average, sums, rules }) => [
              <td key={`${name}-off`} className="fig pl-6">
                {fixed(series[i], 1)}
                {rules[i]!.length ? `, ${rules[i]!.join(', ')}` : ''}
              </td>,
              <td key={`${name}-average`} className={`fig pl-6 ${average[i]!.out ? 'font-bold' : ''}`}>
                {fixed(average[i]!.value, 2)}
                {average[i]!.out ? ' out' : ''}
              </td>,
              <td key={`${name}-sums`} className={`fig pl-6 ${sums[i]!.out ? 'font-bold' : ''}`}>
                {fixed(sums[i]!.upper, 1)} / {fixed(sums[i]!.lower, 1)}
                {sums[i]!.out ? ' out' : ''}
              </td>,
            ])}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

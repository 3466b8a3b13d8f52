import { useState } from 'react';
import { median, MS_PER_DAY } from '@frustum/core';
import type { DrawnRow, LoopRow, SensorView } from '@frustum/contract';
import { useMarginsQuery, useSensorQuery } from '../../app/api.ts';
import CompareChart, { courseOf, type Compared } from '../../charts/compare-chart.tsx';
import { inFamily, upper } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';
import { SaveFigure } from '../../ui/save-figure.tsx';

const MAX_DAYS = 400;

const WHYS: readonly (readonly [words: string, holds: (mine: LoopRow, other: LoopRow) => boolean])[] = [
  ['its backup', (mine, other) => other.backupOf === mine.loopId],
  ['it is the backup of this one', (mine, other) => mine.backupOf === other.loopId],
  ['same water', (mine, other) => mine.water !== null && mine.water === other.water],
  ['same reference', (mine, other) => mine.referenceGroup !== '' && sharesWith(mine, other, 'referenceGroup')],
  ['same body', (mine, other) => mine.body !== '' && sharesWith(mine, other, 'body')],
];
const sharesWith = (mine: LoopRow, other: LoopRow, key: 'referenceGroup' | 'body') =>
  mine.siteName === other.siteName && mine[key] === other[key];

/** Others of its kind: what backs it up first, then those in the same water, then those on the same reference. */
function othersOf(row: LoopRow, rows: readonly LoopRow[]): readonly { readonly row: LoopRow; readonly why: string }[] {
  const whyOf = (o: LoopRow) => WHYS.find(([, holds]) => holds(row, o))?.[0] ?? '';
  const rank = (why: string) => (why ? WHYS.findIndex(([words]) => words === why) : WHYS.length);
  return rows
    .filter((o) => o.sensorId !== row.sensorId && (o.family === row.family || whyOf(o) !== ''))
    .map((o) => ({ row: o, why: whyOf(o) }))
    .sort((a, b) => rank(a.why) - rank(b.why) || a.row.loopName.localeCompare(b.row.loopName));
}

type Other = ReturnType<typeof othersOf>[number];

/** This sensor compared with one other, and with all of its kind. */
export function CompareSection({ view: { row, nowMs } }: { view: SensorView }) {
  const { data } = useMarginsQuery();
  const [open, setOpen] = useState(false);
  const [picked, setPicked] = useState('');
  const others = othersOf(row, data?.rows ?? []);
  const otherId = picked || (others[0]?.row.sensorId ?? '');
  const { data: other } = useSensorQuery(otherId, { skip: !open || !otherId });
  // While the others are asked for, its place is kept: nothing below moves under a finger.
  if ((data && !others.length) || !row.cone.segments.length) return null;
  const kind = (data?.rows ?? []).filter((r) => r.family === row.family);
  const mine: Compared = { name: row.loopName, cone: row.cone, tolerance: row.tolerance };
  const fromMs = Math.max(nowMs - MAX_DAYS * MS_PER_DAY, row.cone.segments[0]!.fromMs);
  return (
    <details
      className="border-t border-base-300 mt-5 pt-4"
      open={open}
      onToggle={(e) => setOpen(e.currentTarget.open)}
      aria-label="Compare"
    >
      <summary className="cursor-pointer min-h-6">
        <b className="font-semibold">Compare.</b>{' '}
        <span className="sub">With its siblings, its backup, or all {data ? `${kind.length} ` : ''}of its kind.</span>
      </summary>
      {open && (
        <>
          <PickOther otherId={otherId} setPicked={setPicked} others={others} />
          {other && other.row.cone.segments.length > 0 ? (
            <BothCourses row={row} other={other} mine={mine} fromMs={fromMs} nowMs={nowMs} />
          ) : (
            <p className="sub">{other ? `${other.row.loopName} has no run yet.` : 'Reading …'}</p>
          )}
          <p className="sub text-sm">
            Drawn through: {row.loopName}. Broken: {other?.row.loopName ?? 'the other one'}. Each in percent of its own
            tolerance; at a run the line begins anew.
          </p>
          {other && <SensorComparison row={row} other={other.row} kind={kind} nowMs={nowMs} />}
        </>
      )}
    </details>
  );
}

function PickOther({
  otherId,
  setPicked,
  others,
}: {
  otherId: string;
  setPicked: (value: string) => void;
  others: readonly Other[];
}) {
  return (
    <label className="sub text-[15px] flex flex-wrap items-center gap-2 my-3">
      With
      <select
        aria-label="Compare with"
        className="select select-sm h-10 w-auto text-[15px] text-base-content"
        value={otherId}
        onChange={(e) => setPicked(e.target.value)}
      >
        {others.map((o) => (
          <option key={o.row.sensorId} value={o.row.sensorId}>
            {o.why ? `${o.row.loopName} (${o.why})` : o.row.loopName}
          </option>
        ))}
      </select>
    </label>
  );
}

function BothCourses({
  row,
  other,
  mine,
  fromMs,
  nowMs,
}: {
  row: DrawnRow;
  other: SensorView;
  mine: Compared;
  fromMs: number;
  nowMs: number;
}) {
  return (
    <SaveFigure
      name={`${row.loopName} and ${other.row.loopName}`}
      table={() => ({
        heading: ['time', 'sensor', 'expected error, % of its tolerance'],
        rows: [mine, comparedOf(other.row)].flatMap((c) =>
          courseOf(c, fromMs).flatMap((p) =>
            p.share === null ? [] : [[new Date(p.t).toISOString(), c.name, p.share]],
          ),
        ),
      })}
    >
      <CompareChart
        mine={mine}
        other={comparedOf(other.row)}
        fromMs={fromMs}
        nowMs={nowMs}
        label={`Expected error of ${row.loopName}, drawn through, and of ${other.row.loopName}, broken, in percent of their tolerances`}
      />
    </SaveFigure>
  );
}

const comparedOf = (row: DrawnRow): Compared => ({ name: row.loopName, cone: row.cone, tolerance: row.tolerance });

/** One figure in which sensors are compared. */
interface ComparedLine {
  readonly name: string;
  readonly of: (r: LoopRow) => number | null;
  readonly digits: number;
}

function SensorComparison({
  row,
  other,
  kind,
  nowMs,
}: {
  row: LoopRow;
  other: LoopRow;
  kind: readonly LoopRow[];
  nowMs: number;
}) {
  const figures = inFamily(row);
  const { family, signalUnit } = figures;
  const known = kind.filter((r) => r.inForceKnown);
  const lines: readonly ComparedLine[] = [
    {
      name: 'off now, % of tolerance',
      of: (r) => (r.margin.error === null ? null : (100 * r.margin.error) / r.tolerance),
      digits: 0,
    },
    {
      name: `${upper(family.zero.name)} in force, ${signalUnit}`,
      of: (r) => (r.inForceKnown ? r.inForce.zero : null),
      digits: 1,
    },
    {
      name: `${upper(family.sensitivity.name)} in force, %`,
      of: (r) => (r.inForceKnown ? 100 * r.inForce.sensitivity : null),
      digits: 1,
    },
    {
      name: 'days since the last run',
      of: (r) => (r.lastRunMs === null ? null : (nowMs - r.lastRunMs) / MS_PER_DAY),
      digits: 0,
    },
  ];
  const shown = (value: number | null, digits: number) => (value === null ? '–' : fixed(value, digits));
  return (
    <div className="overflow-x-auto">
      <ComparisonTable row={row} other={other} known={known} lines={lines} shown={shown} />
    </div>
  );
}

function ComparisonTable({
  row,
  other,
  known,
  lines,
  shown,
}: {
  row: LoopRow;
  other: LoopRow;
  known: LoopRow[];
  lines: readonly ComparedLine[];
  shown: (value: number | null, digits: number) => string;
}) {
  return (
    <table className="text-[15px] mt-2 min-w-[560px]">
      <thead>
        <tr className="sub text-[13px] text-right">
          <th className="font-normal text-left py-1.5 pr-8">what</th>
          <th className="font-normal pl-6">{row.loopName}</th>
          <th className="font-normal pl-6">{other.loopName}</th>
          <th className="font-normal pl-6">middle of {known.length}, lowest to highest</th>
        </tr>
      </thead>
      <tbody>
        {lines.map(({ name, of, digits }) => {
          const all = known.flatMap((r) => of(r) ?? []);
          return (
            <tr key={name} className="border-t border-base-300 text-right">
              <td className="text-left py-1 pr-8">{name}</td>
              <td className="fig pl-6">{shown(of(row), digits)}</td>
              <td className="fig pl-6">{other.family === row.family ? shown(of(other), digits) : '–'}</td>
              <td className="fig pl-6">
                {all.length
                  ? `${fixed(median(all), digits)} (${fixed(Math.min(...all), digits)} to ${fixed(Math.max(...all), digits)})`
                  : '–'}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

import { Link } from 'react-router';
import { useState } from 'react';
import ReadingsChart, { correctionAt } from '../../charts/readings-chart.tsx';
import { SaveFigure } from '../../ui/save-figure.tsx';
import { useNoticesQuery, useReadingsQuery } from '../../app/api.ts';
import type { LookBackView, LoopRow, ReadingsView } from '@frustum/contract';
import { lookBacksAsWritten, readingsAsWritten } from '../../format/as-written.ts';
import { fixed } from '../../format/numbers.ts';
import { inFamily, type InFamily } from '../../format/in-family.ts';
import { Pill } from '../../ui/pill.tsx';

const SPANS = [
  [1, '1 day'],
  [7, '7 days'],
  [30, '30 days'],
] as const;

/** Recent readings of the channel: mean and spread, and the times when the probe was at the bench. */
export function ReadingsSection({ row, lookBacks }: { row: LoopRow; lookBacks: readonly LookBackView[] }) {
  const { sensorId, loopName } = row;
  const figures = inFamily(row);
  const { unit, digits } = figures;
  const [days, setDays] = useState<number>(7);
  const { data: noted = [] } = useNoticesQuery({ loopId: row.loopId, days });
  const befell = noted.map((n) => ({ atMs: Date.parse(n.at), text: n.kind }));
  const { data: read, isFetching } = useReadingsQuery({ sensorId, days });
  const data = read && readingsAsWritten(read, figures);
  const process = (data?.buckets ?? []).filter((b) => !b.onBench);
  const low = Math.min(...process.map((b) => b.low));
  const high = Math.max(...process.map((b) => b.high));
  return (
    <section aria-label="Readings" className="border-t border-base-300 mt-5 pt-4">
      <div className="flex flex-wrap gap-2 items-center">
        <h2 className="mr-2">Readings, {unit}</h2>
        {SPANS.map(([span, text]) => (
          <Pill key={span} text={text} on={span === days} busy={isFetching} act={() => setDays(span)} />
        ))}
        <Link className="underline sub ml-auto" to={`/limits?loop=${row.loopId}`}>
          Limits of this water
        </Link>
      </div>
      {data && data.buckets.length > 1 ? (
        <>
          <ReadingsPicture
            loopName={loopName}
            days={days}
            unit={unit}
            data={data}
            lookBacks={lookBacksAsWritten(lookBacks, figures)}
            befell={befell}
            figures={figures}
            low={low}
            high={high}
          />
          <p className="sub text-sm">
            {process.length
              ? `From ${fixed(low, digits)} to ${fixed(high, digits)} ${unit}, by the coefficients of the time. `
              : ''}
            <OfTheLiquid latest={process.at(-1)} figures={figures} />
            Where the line is thin and broken the probe was at the bench.
            {data &&
              lookBacks.some((l) => l.toMs > data.fromMs && l.fromMs < data.toMs) &&
              ' Where the sensor was probably outside, the broken line with its band is a provisional correction, for 95 % of the time; what was shown is kept as it was.'}
          </p>
        </>
      ) : (
        // While it is asked for, the place of a chart is kept: nothing below moves under a finger.
        <p className={`sub mt-2 ${!data && row.channel.kind !== 'hand' ? 'min-h-62' : ''}`}>
          {data ? 'No readings kept in this time. They are kept minute by minute while Frustum runs.' : 'Reading …'}
        </p>
      )}
    </section>
  );
}

/** What the same liquid has at 25 °C, by its own coefficient: beside the reading, never instead of it. */
function OfTheLiquid({ latest, figures }: { latest: ReadingsView['buckets'][number] | undefined; figures: InFamily }) {
  const { model, written, unit } = figures;
  if (!latest || !model.liquidAt25) return null;
  const { mean, temperatureC } = latest;
  const at = { temperatureC };
  const there = model.liquidAt25(written.ownValue(mean, at), at);
  return (
    <span>
      The latest is {figures.value(written.ownValue(mean, at))} {unit} at {fixed(temperatureC, 1)} °C; at 25 °C the same
      liquid has {figures.value(there)}, by its own coefficient.{' '}
    </span>
  );
}

interface PictureProps {
  readonly loopName: string;
  readonly days: number;
  readonly unit: string;
  readonly data: ReadingsView;
  readonly lookBacks: readonly LookBackView[];
  readonly befell: readonly { readonly atMs: number; readonly text: string }[];
  readonly figures: InFamily;
  readonly low: number;
  readonly high: number;
}

function ReadingsPicture({ loopName, days, unit, data, lookBacks, befell, figures, low, high }: PictureProps) {
  return (
    <SaveFigure
      name={`${loopName}, readings of ${days} days`}
      table={() => ({
        heading: [
          'time',
          `mean, ${unit}`,
          `low, ${unit}`,
          `high, ${unit}`,
          '°C',
          'at the bench',
          `probably, ${unit}`,
          '±',
        ],
        rows: data.buckets.map((b) => {
          const off = b.onBench ? null : correctionAt(lookBacks, b.atMs);
          const time = new Date(b.atMs).toISOString();
          return [
            time,
            b.mean,
            b.low,
            b.high,
            b.temperatureC,
            Number(b.onBench),
            off && b.mean - off.mean,
            off && off.half,
          ];
        }),
      })}
    >
      <ReadingsChart
        view={data}
        lookBacks={lookBacks}
        befell={befell.map((b) => ({ ...b, atMs: Math.min(b.atMs, data.toMs) }))}
        digits={figures.digits}
        label={`Readings of ${loopName} over ${days} days, ${fixed(low, figures.digits)} to ${fixed(high, figures.digits)} ${unit}`}
      />
    </SaveFigure>
  );
}

import { useState } from 'react';
import ReadingsChart, { correctionAt } from '../../charts/readings-chart.tsx';
import { SaveFigure } from '../../ui/save-figure.tsx';
import { useReadingsQuery } from '../../app/api.ts';
import type { LookBackView, LoopRow, ReadingsView } from '@frustum/contract';
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
  const { unit } = figures;
  const [days, setDays] = useState<number>(7);
  const { data, isFetching } = useReadingsQuery({ sensorId, days });
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
      </div>
      {data && data.buckets.length > 1 ? (
        <>
          <ReadingsPicture
            loopName={loopName}
            days={days}
            unit={unit}
            data={data}
            lookBacks={lookBacks}
            figures={figures}
            low={low}
            high={high}
          />
          <p className="sub text-sm">
            {process.length
              ? `From ${figures.value(low)} to ${figures.value(high)} ${unit}, by the coefficients of the time. `
              : ''}
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

function ReadingsPicture({
  loopName,
  days,
  unit,
  data,
  lookBacks,
  figures,
  low,
  high,
}: {
  loopName: string;
  days: number;
  unit: string;
  data: ReadingsView;
  lookBacks: readonly LookBackView[];
  figures: InFamily;
  low: number;
  high: number;
}) {
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
        digits={figures.digits}
        label={`Readings of ${loopName} over ${days} days, ${figures.value(low)} to ${figures.value(high)} ${unit}`}
      />
    </SaveFigure>
  );
}

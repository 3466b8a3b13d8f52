import { lazy, Suspense, useState } from 'react';
import { useReadingsQuery } from '../../app/api.ts';
import { fixed } from '../../format/numbers.ts';
import { Pill } from '../../ui/pill.tsx';

const ReadingsChart = lazy(() => import('../../charts/readings-chart.tsx'));
const SPANS = [
  [1, '1 day'],
  [7, '7 days'],
  [30, '30 days'],
] as const;

/** What the channel showed of late: mean and spread, and the times at which the probe was at the bench. */
export function ReadingsSection({ sensorId, loopName }: { sensorId: string; loopName: string }) {
  const [days, setDays] = useState<number>(7);
  const { data, isFetching } = useReadingsQuery({ sensorId, days });
  const process = (data?.buckets ?? []).filter((b) => !b.onBench);
  const low = Math.min(...process.map((b) => b.low));
  const high = Math.max(...process.map((b) => b.high));
  return (
    <section aria-label="Readings" className="border-t border-base-300 mt-5 pt-4">
      <div className="flex flex-wrap gap-2 items-center">
        <h2 className="mr-2">Readings, pH</h2>
        {SPANS.map(([span, text]) => (
          <Pill key={span} text={text} on={span === days} busy={isFetching} act={() => setDays(span)} />
        ))}
      </div>
      {data && data.buckets.length > 1 ? (
        <>
          <Suspense fallback={<div className="h-52" />}>
            <ReadingsChart
              view={data}
              label={`Readings of ${loopName} over ${days} days, ${fixed(low, 2)} to ${fixed(high, 2)} pH`}
            />
          </Suspense>
          <p className="sub text-sm">
            {process.length ? `From ${fixed(low, 2)} to ${fixed(high, 2)} pH, by the coefficients of the time. ` : ''}
            Where the line is thin and broken the probe was at the bench.
          </p>
        </>
      ) : (
        <p className="sub mt-2">
          {data ? 'No readings kept in this time. They are kept minute by minute while Frustum runs.' : 'Reading …'}
        </p>
      )}
    </section>
  );
}

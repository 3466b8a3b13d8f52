import { useState } from 'react';
import { format } from 'date-fns';
import { useLazyReadingAtQuery } from '../../../app/api.ts';
import type { InFamily } from '../../../format/in-family.ts';
import { timeOf } from '../../../format/dates.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import type { SettleStep } from './use-settle-step.ts';
import { problemOf } from '../../../format/problem.ts';

/** A sample that was drawn before: its reading is looked up where readings are kept. */
export function SampledEarlier({ sensorId, figures, at }: { sensorId: string; figures: InFamily; at: SettleStep }) {
  const [when, setWhen] = useState(() => format(new Date(), "yyyy-MM-dd'T'HH:mm"));
  const [look, { data, error, isFetching }] = useLazyReadingAtQuery();
  const find = () => void look({ sensorId, at: new Date(when).toISOString() });
  const shown = data ? figures.shown(data.signal, data.temperatureC, at.inForce) : null;
  return (
    <details className="mt-3 border-t border-base-300 pt-2">
      <summary className="cursor-pointer py-2.5 font-semibold">It was drawn earlier</summary>
      <div className="flex gap-2.5 flex-wrap items-end">
        <label className="sub text-sm">
          When it was drawn
          <input
            type="datetime-local"
            className="input h-14 block text-base text-base-content"
            value={when}
            onChange={(e) => setWhen(e.target.value)}
          />
        </label>
        <button type="button" className="btn h-14 text-base" disabled={!when || isFetching} onClick={find}>
          Find the reading
        </button>
      </div>
      <div role="status" className="mt-2">
        {error && <Notice kind="trouble">{problemOf(error).detail}</Notice>}
        {data && !error && (
          <>
            <p>
              {timeOf(data.at)}:{' '}
              <span className="fig">
                {figures.value(shown)} {figures.unit}
              </span>{' '}
              at <span className="fig">{fixed(data.temperatureC, 1)} °C</span>
            </p>
            <button
              type="button"
              className="btn btn-primary h-14 text-lg mt-2"
              onClick={() =>
                at.keep({
                  method: 'reading',
                  signal: data.signal,
                  signalUncertainty: data.signalUncertainty,
                  temperatureC: data.temperatureC,
                  settledSeconds: null,
                  t90: null,
                  trace: [],
                })
              }
            >
              Keep {figures.value(shown)}
            </button>
          </>
        )}
      </div>
    </details>
  );
}

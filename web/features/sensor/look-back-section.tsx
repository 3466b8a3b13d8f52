import { Link } from 'react-router';
import type { LookBackView, LoopRow } from '@frustum/contract';
import { dayOf, timeOf } from '../../format/dates.ts';
import { inFamily } from '../../format/in-family.ts';

const SHOWN = 3;
const DAY_MS = 86_400_000;

/** When this sensor was probably wrong, by how much, and what was decided on it. */
export function LookBackSection({ lookBacks, row }: { lookBacks: readonly LookBackView[]; row: LoopRow }) {
  if (!lookBacks.length) return null;
  const [shown, older] = [lookBacks.slice(0, SHOWN), lookBacks.slice(SHOWN)];
  return (
    <section aria-label="Look-back" className="border-t border-base-300 mt-5 pt-4">
      <h2>
        Look-back. Probably outside{' '}
        {lookBacks.length === 1 ? 'once' : lookBacks.length === 2 ? 'twice' : `${lookBacks.length} times`}; the readings
        of these times stand as they were shown.
      </h2>
      <div className="grid gap-y-4 mt-3">
        {shown.map((l) => (
          <Period key={l.fromMs} period={l} row={row} />
        ))}
      </div>
      {older.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer py-1.5 sub">Earlier: {older.length} more</summary>
          <div className="grid gap-y-4 mt-2">
            {older.map((l) => (
              <Period key={l.fromMs} period={l} row={row} />
            ))}
          </div>
        </details>
      )}
    </section>
  );
}

function Period({ period, row }: { period: LookBackView; row: LoopRow }) {
  const { fromMs, toMs, foundMs, error, sd, leaned } = period;
  const figures = inFamily(row);
  const days = Math.max(1, Math.round((toMs - fromMs) / DAY_MS));
  return (
    <div className="border-l-[3px] border-warning pl-3">
      <p>
        <b className="font-semibold">
          From {dayOf(fromMs)} {foundMs === null ? 'until now' : `to ${dayOf(toMs)}`}
        </b>
        , {days} {days === 1 ? 'day' : 'days'}: {foundMs === null ? 'it shows' : 'it showed'}{' '}
        <span className="fig">
          {figures.off(error)} ±{figures.size(2 * sd)} {figures.unit}
        </span>{' '}
        {foundMs === null ? 'off just now. Nobody has put it right yet.' : 'off when it was put right.'}
      </p>
      {leaned.length ? (
        <>
          <p className="sub text-[15px] mt-1">What leaned on it:</p>
          <ul className="text-[15px] list-disc pl-5">
            {leaned.map((l, i) => (
              <li key={i}>
                {l.atMs !== null && (
                  <span className="fig">
                    {l.untilMs === undefined ? timeOf(l.atMs) : `${dayOf(l.atMs)} to ${dayOf(l.untilMs)}`}{' '}
                  </span>
                )}
                {l.sensorId === row.sensorId ? (
                  l.what
                ) : (
                  <Link className="hover:underline" to={`/sensors/${l.sensorId}`}>
                    {l.what}
                  </Link>
                )}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p className="sub text-[15px] mt-1">Nothing that Frustum knows of leaned on it.</p>
      )}
    </div>
  );
}

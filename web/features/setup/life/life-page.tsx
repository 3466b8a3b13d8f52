import { Link, useParams } from 'react-router';
import { familyOf } from '@frustum/core';
import type { LifeView, SetUpSite } from '@frustum/contract';
import { useLifeQuery, useSetUpQuery } from '../../../app/api.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { besides } from '../../../format/besides.ts';
import { dayOf, timeOf } from '../../../format/dates.ts';
import { upper } from '../../../format/in-family.ts';
import { Fact } from '../../../ui/fact.tsx';
import { ChangeHistory } from '../change-history.tsx';
import { MoveForm } from './move-form.tsx';
import { LIFE_WORDS } from './where-words.ts';

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useLifeQuery(sensorId);
  const { data: setUp } = useSetUpQuery();
  if (!data) return <NotYet what="Reading its life" error={error} />;
  return <Life view={data} sites={setUp?.sites ?? []} />;
}

const days = (n: number) => (n === 1 ? '1 day' : `${n} days`);

/** Everything that a sensor has been through, wherever it was, and where it goes next. */
function Life({ view, sites }: { view: LifeView; sites: readonly SetUpSite[] }) {
  const { sensor, loop, storage, retiredAt } = view;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>{sensor.name}</h1>
      <p className="sub">{besides(sensor.serial, sensor.model, upper(familyOf(sensor.family).name))}</p>
      <dl className="flex flex-wrap gap-x-10 gap-y-3 my-5">
        <Fact name="Where">
          {loop ? (
            <Link className="underline" to={`/sensors/${sensor.sensorId}`}>
              {loop.name}
            </Link>
          ) : retiredAt !== null ? (
            'out of use'
          ) : (
            `on the shelf, stored ${storage}`
          )}
        </Fact>
        <Fact name="In use so far">{days(view.daysFitted)}</Fact>
        {sensor.boughtOn && <Fact name="Bought">{dayOf(sensor.boughtOn)}</Fact>}
      </dl>
      <OthersLived view={view} />
      <MoveForm key={sensor.version} view={view} sites={sites} />
      <Events view={view} />
      <ChangeHistory of={sensor.sensorId} />
    </main>
  );
}

/** So long before the shortest life of its model a spare is ordered, days: common practice, no source. */
const ORDER_DAYS = 14;
const DAY_MS = 86_400_000;

/** What others of its model lived, and when to order the next one. */
function OthersLived({ view: { others, sensor, daysFitted, loop, nowMs } }: { view: LifeView }) {
  if (!others.length) return null;
  const lives = others.map((o) => o.daysFitted).sort((a, b) => a - b);
  const [first, last] = [lives[0]!, lives.at(-1)!];
  const orderMs = nowMs + (first - daysFitted - ORDER_DAYS) * DAY_MS;
  return (
    <p className="max-w-prose mb-4">
      {lives.length === 1
        ? `Another ${sensor.model} was in use for ${days(first)}.`
        : `${lives.length} others of ${sensor.model} were in use for ${first} to ${days(last)}.`}{' '}
      {loop !== null &&
        (orderMs > nowMs
          ? `Order the next one by ${dayOf(orderMs)}: two weeks before this one is as old as the first of them was.`
          : 'Have the next one ready: this one is about as old as the first of them was.')}
    </p>
  );
}

/** What is known by its day only. */
const MIDNIGHT = /T00:00:00(\.000)?(Z|\+00)/;

interface Row {
  readonly at: string;
  readonly what: string;
  readonly more: string;
  readonly to?: string;
}

/** Events, services and runs in one order, the latest first. */
function Events({ view: { events, services, runs } }: { view: LifeView }) {
  const rows: Row[] = [
    ...events.map((e) => ({ at: e.at, what: LIFE_WORDS[e.kind](e.loopName), more: besides(e.by, e.why) })),
    ...services.map((s) => ({ at: s.at, what: s.kind, more: besides(s.by, s.note) })),
    ...runs.flatMap(
      ({ runId, endedAt, loopName, outcome }) =>
      endedAt === null
        ? []
        : [{ at: endedAt, what: outcome ? `run at ${loopName}` : `run at ${loopName}, abandoned`, more: outcome?.sentence ?? '', to: `/bench/${runId}` }], // prettier-ignore
    ),
  ]
    // Of two at one moment the later one was written later.
    .reverse()
    .sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
  return (
    <section aria-label="What it has been through" className="border-t border-base-300 mt-5 pt-4">
      <h2>What it has been through</h2>
      <ul className="text-[15px] mt-1">
        {rows.map(({ at, what, more, to }, i) => (
          <li key={`${at} ${i}`} className="border-t border-base-300 py-1.5 flex flex-wrap gap-x-4">
            <span className="fig sub w-44">{MIDNIGHT.test(at) ? dayOf(at) : timeOf(at)}</span>
            {to ? (
              <Link className="underline" to={to}>
                {what}
              </Link>
            ) : (
              <span>{what}</span>
            )}
            {more && <span className="sub text-sm basis-full lg:basis-auto">{more}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

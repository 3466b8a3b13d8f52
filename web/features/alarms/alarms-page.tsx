import { Link } from 'react-router';
import type { AlarmRow, AlarmsView } from '@frustum/contract';
import { useAcknowledgeMutation, useAlarmsQuery, useSnoozeMutation } from '../../app/api.ts';
import { timeOf } from '../../format/dates.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { Notice } from '../../ui/notice.tsx';
import { problemOf } from '../../format/problem.ts';

const KIND: Readonly<Record<AlarmRow['kind'], string>> = {
  hold: 'On hold',
  'in-cup': 'Probe in a cup',
  water: 'Water',
  rate: 'Fast change',
  frozen: 'Not moving',
  margin: 'Margin',
  limit: 'Limit of practice',
  health: 'Health',
  silent: 'Silent',
  reference: 'Shared reference',
};

const LEVEL: Readonly<Record<AlarmRow['level'], string>> = {
  urgent: 'Urgent',
  act: 'Act',
  warn: 'Warning',
  note: 'Note',
};

/** What should somebody know, who has seen it, and what is over? */
export function Page() {
  const { data, error } = useAlarmsQuery();
  return data ? <Alarms view={data} /> : <NotYet what="Reading the alarms" error={error} />;
}

function Alarms({ view: { standing, past, told } }: { view: AlarmsView }) {
  const waiting = standing.filter((a) => !a.acknowledgedAt && !a.snoozedUntil);
  const later = standing.filter((a) => a.snoozedUntil);
  const seen = standing.filter((a) => a.acknowledgedAt);
  return (
    <main className="px-4 lg:px-7 py-5 w-full max-w-[1100px] mx-auto">
      <h1>
        {waiting.length === 0
          ? 'Nothing waits for somebody to look.'
          : waiting.length === 1
            ? 'One alarm waits for somebody to look.'
            : `${waiting.length} alarms wait for somebody to look.`}
      </h1>
      <p className="sub mt-2 max-w-3xl">
        Each cause is raised once. It stays here until it is gone, and is quiet as soon as somebody has seen it.
      </p>
      <List name="Waiting" alarms={waiting} />
      <List name="Later" alarms={later} />
      <List name="Seen, and not over yet" alarms={seen} />
      {past.length > 0 && (
        <details className="border-t border-base-300 mt-6 pt-3">
          <summary className="cursor-pointer py-1.5 font-semibold">Over: the last {past.length}</summary>
          <List name="" alarms={past} />
        </details>
      )}
      <Where told={told} />
    </main>
  );
}

function List({ name, alarms }: { name: string; alarms: readonly AlarmRow[] }) {
  if (!alarms.length) return null;
  return (
    <section aria-label={name || 'Over'} className="mt-5">
      {name && <h2>{name}</h2>}
      <ul className="mt-2">
        {alarms.map((a) => (
          <Alarm key={a.id} alarm={a} />
        ))}
      </ul>
    </section>
  );
}

/** Where an alarm leads first: to the run, to the bench, or to the sensor's page. */
function whatToDo({ kind, sensorId, runId }: AlarmRow): { readonly to: string; readonly words: string } | null {
  if (runId) return { to: `/bench/${runId}`, words: 'To the run' };
  if (!sensorId) return null;
  if (kind === 'margin') return { to: `/bench/start/${sensorId}`, words: 'To the bench' };
  return { to: `/sensors/${sensorId}`, words: 'See the sensor' };
}

function Alarm({ alarm }: { alarm: AlarmRow }) {
  const [acknowledge, { isLoading, error }] = useAcknowledgeMutation();
  const { id, kind, level, text, raisedAt, acknowledgedAt, acknowledgedBy, clearedAt, snoozedUntil, told } = alarm;
  const open = !acknowledgedAt && !clearedAt && !snoozedUntil;
  const toDo = clearedAt ? null : whatToDo(alarm);
  return (
    <li
      className={`border-l-[3px] pl-3 py-2 mb-2.5 flex flex-wrap gap-x-4 gap-y-2 items-center ${open ? 'border-error' : 'border-base-300'}`}
    >
      <div className="flex-1 min-w-[16rem]">
        <p className={open ? 'font-semibold' : ''}>{text}</p>
        <p className="sub text-sm">
          <b className="font-semibold">{LEVEL[level]}</b> · {KIND[kind]} ·{' '}
          <span className="fig">{timeOf(raisedAt)}</span>
          {acknowledgedAt && ` · seen by ${acknowledgedBy}, ${timeOf(acknowledgedAt)}`}
          {snoozedUntil && ` · again at ${timeOf(snoozedUntil)}`}
          {told.length > 0 && ` · told by ${told.join(', ')}`}
          {clearedAt && ` · over since ${timeOf(clearedAt)}`}
        </p>
        {error && (
          <Notice kind="trouble" role="alert">
            {problemOf(error).detail}
          </Notice>
        )}
      </div>
      <span className="flex gap-2.5">
        {toDo && (
          <Link className={`btn h-12 ${open ? 'btn-primary' : 'btn-outline border-base-300'}`} to={toDo.to}>
            {toDo.words} <span className="sr-only">: {text}</span>
          </Link>
        )}
        {open && (
          <button
            type="button"
            className="btn btn-ghost h-12 font-normal"
            disabled={isLoading}
            aria-label={`I have seen it: ${text}`}
            onClick={() => void acknowledge(id)}
          >
            I have seen it
          </button>
        )}
        {!clearedAt && !acknowledgedAt && <Snooze alarm={alarm} />}
      </span>
    </li>
  );
}

const SNOOZES = [
  [30, '30 min'],
  [120, '2 h'],
  [480, '8 h'],
] as const;

/** Quiet for a while: it is told again if it still stands then. */
function Snooze({ alarm: { id, text } }: { alarm: AlarmRow }) {
  const [snooze, { isLoading }] = useSnoozeMutation();
  return (
    <select
      className="select h-12 w-32"
      aria-label={`Later: ${text}`}
      value=""
      disabled={isLoading}
      onChange={(e) => void snooze({ alarmId: id, minutes: Number(e.target.value) })}
    >
      <option value="" disabled>
        Later …
      </option>
      {SNOOZES.map(([minutes, words]) => (
        <option key={minutes} value={minutes}>
          in {words}
        </option>
      ))}
    </select>
  );
}

/** Where alarms go beside this screen. */
function Where({ told: { webhook, mqtt, mail, trouble, waiting, givenUp } }: { told: AlarmsView['told'] }) {
  const places = [
    webhook && `a webhook at ${webhook}`,
    mqtt && `the MQTT topic ${mqtt}`,
    mail && `mail to ${mail}`,
  ].filter(Boolean);
  return (
    <section aria-label="Where alarms go" className="border-t border-base-300 mt-6 pt-4">
      <h2>Where alarms go</h2>
      {trouble && (
        <Notice kind="trouble" role="alert">
          {trouble}
        </Notice>
      )}
      <p className="flex flex-wrap gap-2.5 my-2">
        <Link className="btn btn-outline border-base-300 h-12" to="/alarms/ways">
          Where to, and when
        </Link>
        <Link className="btn btn-outline border-base-300 h-12" to="/limits">
          Limits of the water
        </Link>
      </p>
      <p className="mt-1">
        {places.length ? `To this screen, to ${places.join(' and to ')}.` : 'To this screen alone.'}
      </p>
      {waiting > 0 && (
        <p className="mt-1">
          {waiting === 1 ? 'One message waits' : `${waiting} messages wait`} to be told there, and{' '}
          {waiting === 1 ? 'is' : 'are'} tried again for a day.
        </p>
      )}
      {givenUp.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer py-1.5 font-semibold">Could not be told: {givenUp.length}</summary>
          <ul className="mt-1">
            {givenUp.map((g) => (
              <li key={`${g.way} ${g.at} ${g.text}`} className="py-1">
                {g.text}{' '}
                <span className="sub text-sm">
                  {g.way}, given up <span className="fig">{timeOf(g.at)}</span>: {g.trouble}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="sub text-sm mt-1 max-w-3xl">
        A webhook gets each alarm as JSON by POST, an MQTT topic the same text; both get a sign of life every 15
        minutes, so that silence is noticed. Alarms are no safety device: what must stop by itself has its own
        interlock.
      </p>
    </section>
  );
}

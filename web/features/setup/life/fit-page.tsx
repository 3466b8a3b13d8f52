import { Link, useParams } from 'react-router';
import { familyOf, type RefusalFactsOf } from '@frustum/core';
import type { SetUpLoop, ShelvedSensor } from '@frustum/contract';
import { useSetUpQuery } from '../../../app/api.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { besides } from '../../../format/besides.ts';
import { timeOf } from '../../../format/dates.ts';
import { upper } from '../../../format/in-family.ts';
import { problemOf } from '../../../format/problem.ts';
import { Notice } from '../../../ui/notice.tsx';
import { NEW, useFit, type FitProps, type Typed } from './use-fit.ts';
import { AWAY, shelfWords } from './where-words.ts';

export function Page() {
  const { loopId = '' } = useParams();
  const { data, error } = useSetUpQuery();
  if (!data) return <NotYet what="Reading the set-up" error={error} />;
  const site = data.sites.find((s) => s.loops.some((l) => l.loopId === loopId));
  const loop = site?.loops.find((l) => l.loopId === loopId);
  if (!site || !loop)
    return (
      <main className="px-4 lg:px-7 py-5">
        <h1>There is no such loop</h1>
        <Link className="underline" to="/set-up">
          Back to Set-up
        </Link>
      </main>
    );
  const spares = data.shelf.filter((s) => s.family === loop.family && s.retiredAt === null);
  return <Fit loop={loop} spares={spares} timeZone={site.timeZone} />;
}

/** Which sensor comes, where the old one goes, and what the instrument then reckons with. */
function Fit(props: FitProps) {
  const at = useFit(props);
  const { loop, spares, timeZone } = at.asked ?? props;
  const { typed, put, error } = at;
  const old = loop.sensor;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <h1>{old ? `Replace ${old.name}` : 'Fit a sensor'}</h1>
      <p className="sub mt-1">
        {besides(loop.name, loop.place)} · {upper(familyOf(loop.family).name)}
      </p>
      <form
        noValidate
        aria-label="Fit a sensor"
        className="mt-3"
        onSubmit={(e) => {
          e.preventDefault();
          at.fit();
        }}
      >
        <Which loop={loop} spares={spares} typed={typed} put={put} />
        <div className="grid sm:grid-cols-3 gap-x-5 gap-y-3 mt-4">
          {old && <Displaced name={old.name} value={typed.displaced} onChange={(displaced) => put({ displaced })} />}
          <Moment timeZone={timeZone} value={typed.at} onChange={(when) => put({ at: when })} />
          <Why value={typed.why} onChange={(why) => put({ why })} />
        </div>
        <div className="mt-4">
          <Notice kind="care">
            {loop.channel.coefficientsIn === 'sensor'
              ? 'This sensor keeps its figures in its own head: they come along, and its history goes on here.'
              : 'The instrument goes on reckoning with the figures of the sensor before. Its readings are not to be trusted until this one is calibrated here; hold what they control.'}
          </Notice>
        </div>
        <Against error={error} soaked={typed.soaked} onSoaked={(soaked) => put({ soaked })} />
        <div className="flex flex-wrap gap-2 mt-4">
          <button
            className="btn btn-primary h-14 text-lg"
            disabled={at.isLoading || (typed.chosen === NEW && !typed.name.trim())}
          >
            {at.isLoading ? 'Noting …' : 'It is fitted'}
          </button>
          <Link className="btn btn-ghost h-14 text-lg font-normal" to="/set-up">
            Not now
          </Link>
        </div>
      </form>
    </main>
  );
}

interface WhichProps {
  readonly loop: SetUpLoop;
  readonly spares: readonly ShelvedSensor[];
  readonly typed: Typed;
  readonly put: (part: Partial<Typed>) => void;
}

/** A spare from the shelf, or a new sensor. */
function Which({ loop, spares, typed, put }: WhichProps) {
  const soak = familyOf(loop.family).soak;
  const spare = spares.find((s) => s.sensorId === typed.chosen);
  const text = (key: 'name' | 'serial' | 'model', label: string) => (
    <label className="text-sm sub">
      {label}
      <input
        className="input h-12 w-full text-base text-base-content"
        maxLength={60}
        autoComplete="off"
        value={typed[key]}
        onChange={(e) => put({ [key]: e.target.value })}
      />
    </label>
  );
  const choice = (value: string, words: string, more: string) => (
    <label key={value} className="flex items-center gap-3 min-h-14 cursor-pointer border-t border-base-300">
      <input
        type="radio"
        name="sensor"
        className="radio"
        checked={typed.chosen === value}
        onChange={() => put({ chosen: value })}
      />
      <span>
        {words} <span className="sub text-sm">{more}</span>
      </span>
    </label>
  );
  return (
    <fieldset>
      <legend className="font-[650]">Which sensor</legend>
      {spares.map((s) => choice(s.sensorId, s.name, besides(s.serial, s.model, shelfWords(s))))}
      {choice(NEW, 'A new one', 'from its box, not on the shelf yet')}
      {typed.chosen === NEW && (
        <div className="grid sm:grid-cols-3 gap-x-5 gap-y-3 mt-2">
          {text('name', 'Sensor')}
          {text('serial', 'Serial')}
          {text('model', 'Model, in your words')}
        </div>
      )}
      {soak && (typed.chosen === NEW || spare?.storage === 'dry') && (
        <div className="mt-3">
          <Notice kind="plain">{soak.words(spare?.storage === 'dry').text}</Notice>
        </div>
      )}
    </fieldset>
  );
}

/** Where the sensor goes that was there until now. */
export const Displaced = ({
  name,
  value,
  onChange,
}: {
  name: string;
  value: string;
  onChange: (to: string) => void;
}) => (
  <label className="text-sm sub">
    {name} goes
    <select
      className="select h-12 w-full text-base text-base-content"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {AWAY.map(([to, words]) => (
        <option key={to} value={to}>
          {words}
        </option>
      ))}
    </select>
  </label>
);

interface MomentProps {
  readonly value: string;
  /** of the site: shown where the browser goes by another clock */
  readonly timeZone: string;
  readonly onChange: (at: string) => void;
}

export const Moment = ({ value, timeZone, onChange }: MomentProps) => (
  <label className="text-sm sub">
    When, if not just now
    {timeZone !== Intl.DateTimeFormat().resolvedOptions().timeZone && `, by the clock of ${timeZone}`}
    <input
      type="datetime-local"
      className="input h-12 w-full text-base text-base-content"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  </label>
);

export const Why = ({ value, onChange }: { value: string; onChange: (why: string) => void }) => (
  <label className="text-sm sub">
    Why
    <input
      className="input h-12 w-full text-base text-base-content"
      maxLength={300}
      autoComplete="off"
      placeholder="kept with the change"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  </label>
);

interface AgainstProps {
  readonly error: unknown;
  readonly soaked: boolean;
  readonly onSoaked: (soaked: boolean) => void;
}

/** What stands against it, and the answer to a soak that is not over. */
export function Against({ error, soaked, onSoaked }: AgainstProps) {
  if (error === undefined) return null;
  const problem = problemOf(error);
  const soaks = problem.code === 'still-soaking' && (problem.facts as RefusalFactsOf['still-soaking']).readyAt;
  return (
    <div className="mt-4">
      <Notice kind="trouble" role="alert">
        {soaks
          ? `It soaks until ${timeOf(soaks)}. Wait until then, or say that it has soaked long enough.`
          : problem.detail}
      </Notice>
      {soaks && (
        <label className="flex items-center gap-3 min-h-12 cursor-pointer mt-2">
          <input type="checkbox" className="toggle" checked={soaked} onChange={(e) => onSoaked(e.target.checked)} />
          It has soaked long enough
        </label>
      )}
    </div>
  );
}

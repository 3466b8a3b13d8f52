import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { ChannelKind, LoopRow, LotRow, ShelfView, StartRun } from '@frustum/contract';
import { problemOf, useSensorQuery, useShelfQuery, useStartRunMutation } from '../../app/api.ts';
import { dayOf, dueWords } from '../../format/dates.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { Waiting } from '../../ui/waiting.tsx';
import { NewLot } from './new-lot.tsx';

/** Usual point sets, first standard first. */
const SETS: readonly (readonly string[])[] = [
  ['technical-7.00', 'technical-4.01'],
  ['technical-7.00', 'technical-10.01'],
  ['technical-7.00', 'technical-9.00'],
  ['technical-7.00', 'technical-10.01', 'technical-4.01'],
];

const CHANNEL_WORDS: Record<ChannelKind, string> = {
  hand: 'typed by hand',
  modbus: 'live over Modbus TCP',
  'modbus-map': 'live over Modbus TCP',
  'http-json': 'live over HTTP',
  mqtt: 'live over MQTT',
};

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useSensorQuery(sensorId);
  const { data: shelf } = useShelfQuery();
  if (error) {
    return (
      <main className="p-6">
        <Notice kind="trouble">{problemOf(error).detail}</Notice>
      </main>
    );
  }
  if (!data || !shelf) return <Waiting what="Opening the bench" />;
  return <Start row={data.row} nowMs={data.nowMs} shelf={shelf} />;
}

/** Newest open bottle that is still good. */
function usualLot(lots: readonly LotRow[], standardId: string, today: string): string {
  const good = lots.filter((l) => l.standardId === standardId && l.expiresOn >= today);
  return good.sort((a, b) => (b.openedOn ?? '').localeCompare(a.openedOn ?? ''))[0]?.lotId ?? '';
}

/** Which standards, from which bottles, judged how: three choices that are usually right already. */
function Start({ row, nowMs, shelf }: { row: LoopRow; nowMs: number; shelf: ShelfView }) {
  const navigate = useNavigate();
  const today = new Date(nowMs).toISOString().slice(0, 10);
  const [points, setPoints] = useState<readonly string[]>(row.pointSet);
  const [lots, setLots] = useState<Record<string, string>>({});
  const [school, setSchool] = useState<'statistical' | 'fixed-time'>('statistical');
  const [start, { isLoading, error }] = useStartRunMutation();
  const nameOf = (id: string) => shelf.standards.find((s) => s.id === id)?.name ?? id;
  const sets = SETS.some((s) => s.join() === row.pointSet.join()) ? SETS : [row.pointSet, ...SETS];
  const lotOf = (id: string) => lots[id] ?? usualLot(shelf.lots, id, today);
  useEffect(() => {
    if (row.openRunId) void navigate(`/bench/${row.openRunId}`, { replace: true });
  }, [row.openRunId, navigate]);
  const go = async () => {
    const order: StartRun = {
      sensorId: row.sensorId,
      points: points.map((standardId) => ({ standardId, lotId: lotOf(standardId) || null })),
      school,
      fixedSeconds: 120,
    };
    const answer = await start(order);
    if (answer.data) void navigate(`/bench/${answer.data.runId}`, { replace: true });
  };
  const due = dueWords(row.due.atMs, nowMs);
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <h1>{row.loopName} to the bench</h1>
      <p className="sub mt-1">
        {row.place} · {row.sensorName} {row.serial} · works at{' '}
        <span className="fig">
          {fixed(row.workingValue, 2)} pH ±{fixed(row.tolerance, 2)}
        </span>{' '}
        · {due.main}
        {` · ${CHANNEL_WORDS[row.channel.kind]}`}
      </p>
      <fieldset className="mt-6">
        <legend className="font-[650]">Standards, in this order</legend>
        <div className="flex flex-wrap gap-2 mt-2">
          {sets.map((set) => (
            <label
              key={set.join()}
              className={`btn h-14 ${set.join() === points.join() ? 'btn-neutral' : 'btn-outline border-base-300'}`}
            >
              <input
                type="radio"
                name="points"
                className="sr-only"
                checked={set.join() === points.join()}
                onChange={() => setPoints(set)}
              />
              {set.map(nameOf).join(', then ')}
            </label>
          ))}
        </div>
      </fieldset>
      <section className="mt-6" aria-label="Bottles">
        <h2>From which bottles</h2>
        {points.map((id) => (
          <LotChoice
            key={id}
            name={nameOf(id)}
            standardId={id}
            lots={shelf.lots.filter((l) => l.standardId === id)}
            value={lotOf(id)}
            today={today}
            onPick={(lot) => setLots({ ...lots, [id]: lot })}
          />
        ))}
      </section>
      {row.channel.kind !== 'hand' && (
        <fieldset className="mt-6">
          <legend className="font-[650]">When may a reading be captured</legend>
          {(
            [
              ['statistical', 'By forecast: at most 0.01 pH still to come, then once more after a wiggle'],
              ['fixed-time', 'By the clock: two minutes in each cup'],
            ] as const
          ).map(([value, text]) => (
            <label key={value} className="flex items-center gap-3 min-h-14 cursor-pointer">
              <input
                type="radio"
                name="school"
                className="radio"
                checked={school === value}
                onChange={() => setSchool(value)}
              />
              {text}
            </label>
          ))}
        </fieldset>
      )}
      {row.controls && (
        <div className="mt-6">
          <Notice kind="care">
            This loop controls {row.controls}. The first step puts it on hold; the last one releases it.
          </Notice>
        </div>
      )}
      {error && (
        <div className="mt-4">
          <Notice kind="trouble" role="alert">
            {problemOf(error).detail}
          </Notice>
        </div>
      )}
      <div className="flex gap-2.5 mt-6">
        <button
          type="button"
          className="btn btn-primary h-16 text-xl flex-1"
          disabled={isLoading}
          onClick={() => void go()}
        >
          {isLoading ? 'Starting …' : 'Start the run'}
        </button>
        <Link className="btn btn-outline border-base-300 h-16" to="/">
          Not now
        </Link>
      </div>
    </main>
  );
}

function LotChoice(props: {
  name: string;
  standardId: string;
  lots: readonly LotRow[];
  value: string;
  today: string;
  onPick: (lotId: string) => void;
}) {
  const { name, standardId, lots, value, today, onPick } = props;
  const [adding, setAdding] = useState(false);
  const picked = lots.find((l) => l.lotId === value);
  return (
    <div className="border-t border-base-300 py-2.5 mt-2">
      <div className="flex items-center gap-3 flex-wrap">
        <span className="fig text-xl w-28">{name}</span>
        <select
          className="select h-12 w-auto min-w-52"
          aria-label={`Lot of ${name}`}
          value={value}
          onChange={(e) => onPick(e.target.value)}
        >
          <option value="">no lot noted</option>
          {[...lots].reverse().map((l) => (
            <option key={l.lotId} value={l.lotId}>
              {l.label}, good until {dayOf(l.expiresOn)}
              {l.table ? ', its own table' : ''}
            </option>
          ))}
        </select>
        <button type="button" className="btn btn-ghost h-12" aria-expanded={adding} onClick={() => setAdding(!adding)}>
          New bottle
        </button>
      </div>
      {picked && picked.expiresOn < today && (
        <div className="mt-2">
          <Notice kind="care">
            Lot {picked.label} was good until {dayOf(picked.expiresOn)}. Open a new bottle, or note in the run why this
            one.
          </Notice>
        </div>
      )}
      {adding && (
        <NewLot
          standardId={standardId}
          today={today}
          onAdded={(lotId) => {
            onPick(lotId);
            setAdding(false);
          }}
        />
      )}
    </div>
  );
}

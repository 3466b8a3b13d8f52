import { useEffect, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { pointsTrouble, poursStandards, type SensorState } from '@frustum/core';
import type { ChannelKind, LoopRow, ProcedureRow, SensorView, ShelfView } from '@frustum/contract';
import { useProceduresQuery, useSensorQuery, useShelfQuery, useStartRunMutation } from '../../../app/api.ts';
import { useKeys } from '../../../app/keys.ts';
import { dueWords } from '../../../format/dates.ts';
import { inFamily } from '../../../format/in-family.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { Notice } from '../../../ui/notice.tsx';
import { StartBoxes } from './start-boxes.tsx';
import {
  boxesFor,
  conditionTrouble,
  firstChoice,
  offersFor,
  openGates,
  orderOf,
  standardsOf,
  stepWords,
  USUAL_SECONDS,
  type Choice,
  type Offered,
  type SchoolKind,
} from './start-choice.ts';
import { choiceWords, isLikeLast, StartCard } from './start-card.tsx';
import { StartConditions } from './start-conditions.tsx';
import { StartGates } from './start-gates.tsx';
import { StartPoints } from './start-points.tsx';
import { besides } from '../../../format/besides.ts';
import { problemOf } from '../../../format/problem.ts';

const CHANNEL_WORDS: Record<ChannelKind, string> = {
  hand: 'typed by hand',
  modbus: 'live over Modbus TCP',
  'modbus-map': 'live over Modbus TCP',
  'http-json': 'live over HTTP',
  mqtt: 'live over MQTT',
};
const STATES: readonly (readonly [SensorState, string])[] = [
  ['in-use', 'in use'],
  ['new', 'new, from its box'],
  ['stored-wet', 'stored wet'],
  ['stored-dry', 'stored dry'],
  ['cleaned', 'just cleaned'],
  ['suspect', 'suspect'],
];

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useSensorQuery(sensorId);
  const { data: shelf, error: noShelf } = useShelfQuery();
  const { data: own, error: noneOwn } = useProceduresQuery();
  if (!data || !shelf || !own) return <NotYet what="Opening the bench" error={error ?? noShelf ?? noneOwn} />;
  return <Start view={data} shelf={shelf} own={own} />;
}

/** The choices of a start, what stands against it, and the start itself. */
function useStart({ view, shelf, own }: StartProps) {
  const { row, nowMs, leansOn } = view;
  const navigate = useNavigate();
  const [asked] = useSearchParams();
  // Where no box stands for what the channel gives, nothing can be plugged in.
  const offers = offersFor(row.family, own).filter((o) => o.kind !== 'electrical' || boxesFor(row).length > 0);
  const first = offers.find((o) => o.key === asked.get('procedure')) ?? offers[0]!;
  const [choice, setChoice] = useState<Choice>(() => firstChoice(row, first, shelf.standards));
  const [start, { isLoading, error }] = useStartRunMutation();
  const today = new Date(nowMs).toISOString().slice(0, 10);
  const gates = openGates(row, choice, shelf, leansOn, nowMs);
  const trouble = poursStandards(choice.procedure)
    ? pointsTrouble(row, choice.procedure, standardsOf(choice, shelf.standards))
    : null;
  const conditions = choice.procedure === 'electrical' ? [] : view.conditions;
  const unread = conditions.some((c) => conditionTrouble(choice, c.name) !== null);
  const unanswered = gates.some((g) => !(choice.because[g.id] ?? '').trim());
  useEffect(() => {
    if (row.openRunId) void navigate(`/bench/${row.openRunId}`, { replace: true });
  }, [row.openRunId, navigate]);
  const go = async () => {
    const answer = await start(orderOf(row, choice, shelf.lots, gates, today));
    if (answer.data) void navigate(`/bench/${answer.data.runId}`, { replace: true });
  };
  const blocked = isLoading || unread || trouble !== null || unanswered;
  useKeys({ n: ['Start the run', () => (blocked ? undefined : void go())] });
  return {
    offers,
    offer: offers.find((o) => o.key === (choice.procedureId ?? choice.procedure)) ?? first,
    choice,
    setChoice,
    change: (part: Partial<Choice>) => setChoice({ ...choice, ...part }),
    today,
    gates,
    conditions,
    trouble,
    blocked,
    error,
    go: () => void go(),
    // What stands in the way first, and where it is mended.
    startWords: isLoading
      ? 'Starting …'
      : unread
        ? 'First mend the conditions, above'
        : trouble
          ? 'First pick other standards, below'
          : unanswered
            ? 'First say why, above'
            : 'Start the run',
  };
}
type Starting = ReturnType<typeof useStart>;

interface StartProps {
  readonly view: SensorView;
  readonly shelf: ShelfView;
  readonly own: readonly ProcedureRow[];
}

/** Which procedure, which standards from which bottles, judged how: what is usual is chosen already. */
function Start(props: StartProps) {
  const { view, shelf } = props;
  const { row, runs, nowMs } = view;
  const at = useStart(props);
  const { offer, choice, change, gates, conditions, trouble, error } = at;
  const [changing, setChanging] = useState(false);
  const names = standardsOf(choice, shelf.standards).map((standard) => standard.name);
  const state = STATES.find(([value]) => value === choice.sensorState)![1];
  const words = [
    ...choiceWords(row, choice, shelf, at.today),
    ...(choice.sensorState === 'in-use' ? [] : [`the sensor is ${state}`]),
  ];
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <Whose row={row} nowMs={nowMs} />
      <StartCard
        title={isLikeLast(runs, names) ? 'As last time' : 'As usual here'}
        offer={offer}
        words={words}
        changing={changing}
        onChanging={() => setChanging(!changing)}
        start={at.startWords}
        blocked={at.blocked}
        onStart={at.go}
      >
        <StartConditions conditions={conditions} choice={choice} onChange={(typed) => change({ conditions: typed })} />
        <StartGates gates={gates} because={choice.because} onChange={(because) => change({ because })} />
        {trouble && (
          <div className="mt-4">
            <Notice kind="trouble" role="status">
              {trouble}
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
      </StartCard>
      {row.controls && choice.procedure !== 'sample' && choice.procedure !== 'thermometers' && (
        <div className="mt-4">
          <Notice kind="care">
            This loop controls {row.controls}. The first step puts it on hold; the last one releases it.
          </Notice>
        </div>
      )}
      {(changing || trouble) && <Otherwise at={at} row={row} shelf={shelf} />}
    </main>
  );
}

/** The loop, its sensor, where it works and when it is due. */
function Whose({ row, nowMs }: { row: LoopRow; nowMs: number }) {
  const due = dueWords(row.due.atMs, nowMs);
  const figures = inFamily(row);
  return (
    <>
      <h1>{row.loopName} to the bench</h1>
      <p className="sub mt-1">
        {besides(row.place, `${row.sensorName} ${row.serial}`, 'works at')}{' '}
        <span className="fig">
          {figures.value(row.workingValue)} {figures.unit} ±{figures.value(row.tolerance)}
        </span>{' '}
        · {due.main}
        {` · ${CHANNEL_WORDS[row.channel.kind]}`}
      </p>
    </>
  );
}

/** Everything that can be chosen otherwise. */
function Otherwise({ at, row, shelf }: { at: Starting; row: LoopRow; shelf: ShelfView }) {
  const { offers, offer, choice, setChoice, change, today } = at;
  return (
    <>
      <Procedures
        offers={offers}
        picked={offer}
        onPick={(next) =>
          setChoice({
            ...firstChoice(row, next, shelf.standards),
            sensorState: choice.sensorState,
            conditions: choice.conditions,
            because: choice.because,
          })
        }
      />
      {poursStandards(choice.procedure) && (
        <StartPoints row={row} own={offer.own} choice={choice} shelf={shelf} today={today} onChange={change} />
      )}
      {choice.procedure === 'electrical' && <StartBoxes row={row} choice={choice} onChange={change} />}
      {row.channel.kind !== 'hand' && poursStandards(choice.procedure) && (
        <Schools row={row} choice={choice} onChange={change} />
      )}
      {choice.procedure !== 'electrical' && choice.procedure !== 'sample' && (
        <StateOfSensor choice={choice} change={change} />
      )}
    </>
  );
}

function StateOfSensor({ choice, change }: { choice: Choice; change: (part: Partial<Choice>) => void }) {
  return (
    <label className="block mt-5 sub text-sm">
      The sensor is
      <select
        className="select h-12 flex text-base text-base-content"
        value={choice.sensorState}
        onChange={(e) => change({ sensorState: e.target.value as SensorState })}
      >
        {STATES.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Six or seven ways to go: the usual one is open, the others are a tap away. */
function Procedures({
  offers,
  picked,
  onPick,
}: {
  offers: readonly Offered[];
  picked: Offered;
  onPick: (offer: Offered) => void;
}) {
  return (
    <fieldset className="mt-5">
      <legend className="font-[650]">Procedure</legend>
      <div className="flex flex-wrap gap-2 mt-2">
        {offers.map((o) => (
          <label
            key={o.key}
            className={`btn h-14 font-normal has-focus-visible:outline-2 ${o === picked ? 'btn-neutral' : 'btn-outline border-base-300'}`}
          >
            <input
              type="radio"
              name="procedure"
              className="sr-only"
              checked={o === picked}
              onChange={() => onPick(o)}
            />
            {o.name}
          </label>
        ))}
      </div>
      <p className="sub mt-2 max-w-prose">{picked.text}</p>
    </fieldset>
  );
}

function Schools({
  row,
  choice,
  onChange,
}: {
  row: LoopRow;
  choice: Choice;
  onChange: (part: Partial<Choice>) => void;
}) {
  const schools: readonly (readonly [SchoolKind, string])[] = [
    ['statistical', `By forecast: at most ${stepWords(row)} still to come, then once more after a wiggle`],
    ['fixed-time', 'By the clock: so many seconds in each cup'],
    ['hand-count', 'By count: no digit moves for so many seconds, then once more after a wiggle'],
  ];
  return (
    <fieldset className="mt-6">
      <legend className="font-[650]">When may a reading be captured</legend>
      {schools.map(([value, text]) => (
        <label key={value} className="flex items-center gap-3 min-h-14 cursor-pointer">
          <input
            type="radio"
            name="school"
            className="radio"
            checked={choice.school === value}
            onChange={() => onChange({ school: value, seconds: USUAL_SECONDS[value] })}
          />
          {text}
        </label>
      ))}
      {choice.school !== 'statistical' && (
        <label className="flex items-center gap-3 ml-9">
          <input
            className="input h-12 w-24 fig"
            inputMode="numeric"
            aria-label="Seconds"
            value={choice.seconds}
            onChange={(e) => onChange({ seconds: e.target.value.replace(/\D/g, '') })}
          />
          s
        </label>
      )}
    </fieldset>
  );
}

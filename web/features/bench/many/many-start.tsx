import { useState } from 'react';
import { Link } from 'react-router';
import { dayIn, leastCarryOver, poursStandards, type Gate } from '@frustum/core';
import type { LoopRow, MarginsView, SensorView, ShelfView } from '@frustum/contract';
import { useLazySensorQuery, useMarginsQuery, useShelfQuery, useStartRunMutation } from '../../../app/api.ts';
import { dueWords } from '../../../format/dates.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { Notice } from '../../../ui/notice.tsx';
import { armHere } from '../armed-here.ts';
import { Cups } from './cups.tsx';
import { keepRoom, keptRoom, type Room } from './kept-room.ts';
import { conditionTrouble, firstChoice, offersFor, openGates, orderOf, type Choice } from '../start/start-choice.ts';
import { StartConditions } from '../start/start-conditions.tsx';
import { StartGates } from '../start/start-gates.tsx';
import { besides } from '../../../format/besides.ts';
import { problemOf } from '../../../format/problem.ts';

/** What one loop of a bench of many brings: its run as it is proposed, and gates that stand open. */
interface Planned {
  readonly row: LoopRow;
  readonly choice: Choice;
  readonly gates: readonly Gate[];
}

/** The probes that were picked, each with its run as it is proposed, and what each leans on, once it was read. */
function usePicked(shelf: ShelfView | undefined) {
  const [readSensor] = useLazySensorQuery();
  const [picked, setPicked] = useState<readonly Omit<Planned, 'gates'>[]>([]);
  const [leans, setLeans] = useState<Readonly<Record<string, Pick<SensorView, 'leansOn' | 'conditions'>>>>({});
  const toggle = (row: LoopRow) => {
    if (picked.some((p) => p.row.sensorId === row.sensorId))
      return setPicked(picked.filter((p) => p.row.sensorId !== row.sensorId));
    if (!shelf) return;
    const made = firstChoice(row, offersFor(row.family, [])[0]!, shelf.standards);
    const choice = { ...made, points: inLeastOrder(row, made.points, shelf) };
    setPicked([...picked, { row, choice }]);
    void readSensor(row.sensorId).then(({ data: view }) =>
      setLeans((before) => ({ ...before, [row.sensorId]: view ?? { leansOn: [], conditions: [] } })),
    );
  };
  return { picked, setPicked, leans, toggle };
}

/** Starts one run after the other: what has begun goes on; what could not stays chosen. */
function useStartAll(setPicked: (left: readonly Planned[]) => void, onStarted: () => void) {
  const [start, { isLoading }] = useStartRunMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const go = async (planned: readonly Planned[], lots: ShelfView['lots'], nowMs: number) => {
    setTrouble(null);
    const left = new Set(planned);
    for (const one of planned) {
      const answer = await start(orderOf(one.row, one.choice, lots, one.gates, dayIn(one.row.timeZone, nowMs)));
      if (answer.error) {
        setTrouble(`${one.row.loopName}: ${problemOf(answer.error).detail}`);
        setPicked([...left]);
        return;
      }
      armHere(answer.data.runId);
      left.delete(one);
    }
    onStarted();
  };
  return { go, isLoading, trouble };
}

/** Which probes come to the bench together: one cup serves several, in the order in which least is carried over. */
export function ManyStart({ running, onStarted }: { running: number; onStarted: () => void }) {
  const { data, error } = useMarginsQuery();
  const { data: shelf, error: noShelf } = useShelfQuery();
  const { picked, setPicked, leans, toggle } = usePicked(shelf);
  const { go, isLoading, trouble } = useStartAll(setPicked, onStarted);
  const [room, setRoom] = useState(keptRoom);
  const makeRoom = (next: Room) => {
    setRoom(next);
    keepRoom(next);
  };
  if (!data || !shelf) return <NotYet what="Reading the sensors" error={error ?? noShelf} />;
  const rows = data.rows.filter((r) => !r.openRunId && poursStandards(offersFor(r.family, [])[0]!.kind));
  const planned = picked.map(({ row, choice }): Planned => ({
    row,
    choice,
    gates: openGates(row, choice, shelf, leans[row.sensorId]?.leansOn ?? [], data.nowMs),
  }));
  const reading = planned.some((p) => !leans[p.row.sensorId]);
  const unanswered = planned.some(({ gates, choice }) => gates.some((g) => !(choice.because[g.id] ?? '').trim()));
  const conditionsOf = ({ sensorId }: LoopRow) => leans[sensorId]?.conditions ?? [];
  const unread = planned.some(({ row, choice }) => conditionsOf(row).some((c) => conditionTrouble(choice, c.name)));
  const change = (row: LoopRow, choice: Choice) => setPicked(picked.map((p) => (p.row === row ? { row, choice } : p)));
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <h1>Several probes at once</h1>
      <p className="sub mt-1 max-w-prose">
        Pick the probes. Each gets a run of its own, as its loop usually goes; they share the cups, and the bench names
        the next hand movement.
      </p>
      <fieldset className="mt-4">
        <legend className="sr-only">Probes</legend>
        {rows.map((row) => (
          <PickOne key={row.sensorId} row={row} planned={planned} toggle={toggle} data={data} />
        ))}
      </fieldset>
      {planned.map(({ row, choice, gates }) => (
        <OpenQuestions
          key={row.sensorId}
          row={row}
          gates={gates}
          conditionsOf={conditionsOf}
          choice={choice}
          change={change}
        />
      ))}
      {planned.length > 0 && <Cups planned={picked} standards={shelf.standards} room={room} onRoom={makeRoom} />}
      {trouble && <Trouble text={trouble} />}
      <StartThem
        planned={planned}
        busy={isLoading || reading}
        unanswered={unanswered}
        unread={unread}
        go={() => void go(planned, shelf.lots, data.nowMs)}
        running={running}
        onStarted={onStarted}
      />
    </main>
  );
}

function PickOne({
  row,
  planned,
  toggle,
  data,
}: {
  row: LoopRow;
  planned: readonly Planned[];
  toggle: (row: LoopRow) => void;
  data: MarginsView;
}) {
  return (
    <label className="flex items-center gap-3 min-h-14 border-t border-base-300 cursor-pointer py-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-lg"
        checked={planned.some((p) => p.row.sensorId === row.sensorId)}
        onChange={() => toggle(row)}
      />
      <span className="min-w-0">
        <b className="font-[650]">{row.loopName}</b>
        <span className="sub block text-sm">
          {besides(row.place, dueWords(row.due.atMs, data.nowMs, row.timeZone).main)}
        </span>
      </span>
    </label>
  );
}

function OpenQuestions({
  row,
  gates,
  conditionsOf,
  choice,
  change,
}: {
  row: LoopRow;
  gates: readonly Gate[];
  conditionsOf: (row: LoopRow) => SensorView['conditions'];
  choice: Choice;
  change: (row: LoopRow, choice: Choice) => void;
}) {
  return (
    <div>
      {(gates.length > 0 || conditionsOf(row).length > 0) && <h2 className="mt-4">{row.loopName}</h2>}
      <StartConditions
        conditions={conditionsOf(row)}
        choice={choice}
        onChange={(conditions) => change(row, { ...choice, conditions })}
      />
      <StartGates gates={gates} because={choice.because} onChange={(because) => change(row, { ...choice, because })} />
    </div>
  );
}

function StartThem({
  planned,
  busy,
  unanswered,
  unread,
  go,
  running,
  onStarted,
}: {
  planned: readonly Planned[];
  busy: boolean;
  unanswered: boolean;
  unread: boolean;
  go: () => void;
  running: number;
  onStarted: () => void;
}) {
  return (
    <div className="flex gap-2.5 mt-6">
      <button
        type="button"
        className="btn btn-primary h-16 text-xl flex-1"
        disabled={busy || !planned.length || unanswered || unread}
        onClick={go}
      >
        {unread
          ? 'First mend the conditions, above'
          : unanswered
            ? 'First say why, above'
            : planned.length === 1
              ? 'Start one run'
              : `Start ${planned.length} runs`}
      </button>
      {running > 0 ? (
        <button type="button" className="btn btn-outline border-base-300 h-16" onClick={onStarted}>
          Back to the bench
        </button>
      ) : (
        <Link className="btn btn-outline border-base-300 h-16" to="/bench">
          Not now
        </Link>
      )}
    </div>
  );
}

/** A loop's standards in the order in which least is carried over; air stays first, since it wants a dry cell. */
export function inLeastOrder(row: LoopRow, points: readonly string[], shelf: ShelfView): readonly string[] {
  const standards = points.flatMap((id) => shelf.standards.find((s) => s.id === id) ?? []);
  const first = standards.filter((s) => s.nominal === 0);
  const rest = standards.filter((s) => s.nominal !== 0);
  return [...first, ...leastCarryOver(row, rest)].map((s) => s.id);
}

const Trouble = ({ text }: { text: string }) => (
  <div className="mt-4">
    <Notice kind="trouble" role="alert">
      {text}
    </Notice>
  </div>
);

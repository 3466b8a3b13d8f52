import { memo, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  isSame,
  nextMovement,
  waitsFor,
  type Movement,
  type OnTheBench,
  type Places,
  type RunState,
} from '@frustum/core';
import { useOpenRunsQuery } from '../../../app/api.ts';
import { useKeys } from '../../../app/keys.ts';
import { inFamily } from '../../../format/in-family.ts';
import { about } from '../../../format/numbers.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { Boundary } from '../../../ui/boundary.tsx';
import { isArmedHere } from '../armed-here.ts';
import { Hands } from '../hands.tsx';
import { keepRoom, keptRoom, MAX_PER_CUP, placesOf, type Room } from './kept-room.ts';
import { ManyStart } from './many-start.tsx';
import { RunNow } from '../run-now.tsx';
import type { SettlingReport } from '../settle/settle-panel.tsx';
import { useScreenAwake } from '../use-attention.ts';
import { useLiveTrace } from '../use-live-trace.ts';
import { useRun, type BenchRun } from '../use-run.ts';

/** Runs that one pair of eyes can follow. */
const MAX_RUNS = 8;

/** Several probes at once: every run goes on, and the next hand movement is always named. */
export function Page() {
  const { data: rows, error } = useOpenRunsQuery();
  const [adding, setAdding] = useState(false);
  if (!rows) return <NotYet what="Opening the bench" error={error} />;
  const open = rows.filter((r) => r.status === 'open').slice(0, MAX_RUNS);
  if (!open.length || adding) return <ManyStart running={open.length} onStarted={() => setAdding(false)} />;
  return <Many runIds={open.map((r) => r.runId)} onMore={() => setAdding(true)} />;
}

type Reports = Readonly<Record<string, { readonly state: RunState; readonly settling: SettlingReport | null }>>;

/** What every run of the bench reports, the next hand movement, and whose run is in sight. */
function useManyRuns(runIds: readonly string[], places: ReturnType<typeof placesOf>) {
  const [reports, setReports] = useState<Reports>({});
  const [picked, setPicked] = useState<{ readonly runId: string; readonly stepId: string } | null>(null);
  const [inHand, setInHand] = useState<Movement | null>(null);
  const all: readonly OnTheBench[] = useMemo(
    () => runIds.flatMap((runId) => (reports[runId] ? [{ runId, ...reports[runId] }] : [])),
    [runIds, reports],
  );
  const next = nextMovement(all, places, inHand);
  useEffect(() => {
    if (!isSame(next, inHand)) setInHand(next);
  }, [next, inHand]);
  const stepIdOf = (runId: string) => reports[runId]?.state.current?.id ?? '';
  // Who picked a run keeps it until its step is done; then the next movement is followed again.
  const keeps = picked !== null && runIds.includes(picked.runId) && stepIdOf(picked.runId) === picked.stepId;
  const focused = keeps ? picked.runId : (next?.runId ?? runIds[0]!);
  const pick = (runId: string) => setPicked({ runId, stepId: stepIdOf(runId) });
  const report = useCallback(
    (runId: string, made: Reports[string]) => setReports((before) => ({ ...before, [runId]: made })),
    [],
  );
  return { all, next, focused, pick, report };
}

function Many({ runIds, onMore }: { runIds: readonly string[]; onMore: () => void }) {
  const navigate = useNavigate();
  useScreenAwake(true);
  const [room, setRoom] = useState(keptRoom);
  const places = useMemo(() => placesOf(room), [room]);
  const { all, next, focused, pick, report } = useManyRuns(runIds, places);
  const step = (by: number) => pick(runIds[(runIds.indexOf(focused) + by + runIds.length) % runIds.length]!);
  useKeys({
    j: ['Next run', () => step(1)],
    k: ['Run before', () => step(-1)],
    Escape: ['Back to the bench', () => void navigate('/bench')],
  });
  return (
    <main className="flex-1 flex flex-col">
      <Next movement={next} all={all} count={runIds.length} />
      <div className="flex-1 grid lg:grid-cols-[340px_1fr] content-start lg:content-stretch">
        <section aria-label="Runs on the bench" className="px-4 lg:px-[22px] py-3 lg:border-r border-base-300">
          <ul>
            {runIds.map((runId) => (
              <RunRow
                key={runId}
                one={all.find((o) => o.runId === runId) ?? null}
                all={all}
                places={places}
                focused={runId === focused}
                isNext={next?.runId === runId && next.kind !== 'free'}
                onPick={() => pick(runId)}
              />
            ))}
          </ul>
          <RoomInCups room={room} setRoom={setRoom} />
          <button type="button" className="btn btn-ghost h-12 font-normal" onClick={onMore}>
            Another probe to the bench
          </button>
        </section>
        <section
          aria-label="Now"
          className="px-4 lg:px-[22px] py-4 lg:py-5 max-lg:border-t border-base-300 min-w-0 max-w-4xl"
        >
          {runIds.map((runId) => (
            <Watched key={runId} runId={runId} focused={runId === focused} onReport={report} />
          ))}
        </section>
      </div>
    </main>
  );
}

function RoomInCups({ room, setRoom }: { room: Room; setRoom: (value: Room) => void }) {
  return (
    <label className="flex items-center gap-3 min-h-12 mt-2">
      A cup takes
      <select
        className="select h-12 w-auto"
        value={room.perCup}
        onChange={(e) => {
          const next = { ...room, perCup: Number(e.target.value) };
          setRoom(next);
          keepRoom(next);
        }}
      >
        {Array.from({ length: MAX_PER_CUP }, (_, i) => (
          <option key={i} value={i + 1}>
            {i === 0 ? '1 probe' : `${i + 1} probes`}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The next hand movement, large enough to be read from where the cups stand. */
function Next({ movement, all, count }: { movement: Movement | null; all: readonly OnTheBench[]; count: number }) {
  const one = all.find((o) => o.runId === movement?.runId);
  const words = () => {
    if (all.length < count) return ['Reading the runs …', ''];
    if (!movement || !one) return ['Nothing to do just now.', ''];
    const name = one.state.plan.loopName;
    if (movement.kind !== 'free') return [`${name}: ${movement.title}`, ''];
    const when = movement.seconds === null ? 'too early to say how long' : `${about(movement.seconds)}, then ${name}`;
    return ['Hands are free.', when];
  };
  const [main, rest] = words();
  return (
    <div
      className="px-4 lg:px-7 py-3 border-b border-base-300 text-[21px] lg:text-[24px] leading-tight"
      data-testid="next-movement"
    >
      {/* The movement is told aloud; a forecast that moves with every sample is only shown. */}
      <h1 className="inline text-[length:inherit]" aria-live="polite">
        {main}
      </h1>{' '}
      <span className="sub">{rest}</span>
    </div>
  );
}

function RunRow({
  one,
  all,
  places,
  focused,
  isNext,
  onPick,
}: {
  one: OnTheBench | null;
  all: readonly OnTheBench[];
  places: Places;
  focused: boolean;
  isNext: boolean;
  onPick: () => void;
}) {
  if (!one) return <li className="h-16 sub">Reading …</li>;
  const { state } = one;
  return (
    <li className="border-t border-base-300 first:border-0">
      <button
        type="button"
        aria-pressed={focused}
        onClick={onPick}
        className={`w-full text-left min-h-16 py-2 px-2.5 flex items-center gap-3 ${focused ? 'bg-base-200 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
      >
        <svg width={18} height={18} viewBox="0 0 18 18" className="shrink-0" aria-hidden="true">
          <path
            d="M2 12V6L16 2V16Z"
            className={isNext ? 'fill-primary' : 'fill-base-100 stroke-base-300'}
            strokeWidth={1.5}
          />
        </svg>
        <span className="min-w-0">
          <b className="font-[650] block leading-tight">{state.plan.loopName}</b>
          <span className="sub text-[15px] block leading-tight">
            {state.current?.title}
            {standing(one, all, places)}
          </span>
        </span>
      </button>
    </li>
  );
}

/** How it stands, behind the step's title. */
function standing(one: OnTheBench, all: readonly OnTheBench[], places: Places): string {
  const { settling, state } = one;
  const holder = waitsFor(one, all, places);
  if (holder) return ` · waits for the cup, which ${holder.state.plan.loopName} has`;
  if (state.current?.kind !== 'settle' || !settling) return '';
  if (settling.warned) return ' · look at the cup';
  if (!settling.wiggled) return '';
  if (settling.ready) return ' · steady';
  return settling.toGo === null ? ' · settling' : ` · ${about(settling.toGo)} to go`;
}

/** One run, watched whether it is in hand or not; what the others report does not touch it. */
const Watched = memo(function Watched({
  runId,
  focused,
  onReport,
}: {
  runId: string;
  focused: boolean;
  onReport: (runId: string, made: Reports[string]) => void;
}) {
  const { run } = useRun(runId);
  return run ? <WatchedRun run={run} focused={focused} onReport={onReport} /> : null;
});

function WatchedRun({
  run,
  focused,
  onReport,
}: {
  run: BenchRun;
  focused: boolean;
  onReport: (runId: string, made: Reports[string]) => void;
}) {
  const { view, state } = run;
  const [settling, setSettling] = useState<{ stepId: string; report: SettlingReport } | null>(null);
  const stepId = state.current?.id ?? '';
  const wired = state.plan.channelKind !== 'hand' && state.status === 'open';
  const inForce = state.adjusted?.coefficients ?? state.plan.inForce;
  const trace = useLiveTrace(wired ? view : null, inFamily(state.plan), inForce);
  const hear = useCallback((report: SettlingReport) => setSettling({ stepId, report }), [stepId]);
  const mine = settling?.stepId === stepId ? settling.report : null;
  useEffect(() => onReport(view.runId, { state, settling: mine }), [onReport, view.runId, state, mine]);
  return (
    <div hidden={!focused}>
      {focused && (
        <p className="flex items-baseline gap-3 mb-2">
          <b className="font-[650] text-lg">{state.plan.loopName}</b>
          <Link className="ml-auto underline sub text-[15px]" to={`/bench/${view.runId}`}>
            Its step sheet
          </Link>
        </p>
      )}
      {focused && state.current?.caution && (
        <p className="border-l-[3px] border-warning pl-3 mb-3">{state.current.caution}</p>
      )}
      <Boundary what="This step" until={[state]}>
        <RunNow run={run} trace={trace} focused={focused} byItself={isArmedHere(view.runId)} onReport={hear} />
      </Boundary>
      {focused && view.hands && state.status === 'open' && (
        <Hands channelId={view.channelId} standards={state.plan.points.map((p) => p.standard.name)} />
      )}
    </div>
  );
}

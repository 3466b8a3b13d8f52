import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams, type NavigateFunction } from 'react-router';
import type { RunState, Step } from '@frustum/core';
import { useShelfQuery } from '../../app/api.ts';
import { dayOf } from '../../format/dates.ts';
import { useKeys, type Keys } from '../../app/keys.ts';
import { Dialog } from '../../app/dialog.tsx';
import { inFamily } from '../../format/in-family.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { Boundary } from '../../ui/boundary.tsx';
import { Notice } from '../../ui/notice.tsx';
import { disarmCup } from './armed-here.ts';
import { FoundSoFar } from './found-so-far.tsx';
import { Hands } from './hands.tsx';
import { NotTaken } from './not-taken.tsx';
import { RunNow } from './run-now.tsx';
import { StillHeld } from './still-held.tsx';
import { StepSheet } from './step-sheet.tsx';
import { useScreenAwake } from './use-attention.ts';
import { momentOn, useLiveTrace } from './use-live-trace.ts';
import { useRun, type BenchRun } from './use-run.ts';

export function Page() {
  const { runId = '' } = useParams();
  const { run, error } = useRun(runId);
  if (run) return <Bench key={runId} run={run} />;
  return <NotYet what="Opening the bench" error={error} />;
}

const QUIET = 'btn btn-ghost btn-sm max-lg:h-12 font-normal text-[15px]';

/** What do I do now, is it steady, what does it say? */
function Bench({ run }: { run: BenchRun }) {
  const { view, state, send } = run;
  const navigate = useNavigate();
  const held = state.hold !== null && state.hold.releasedAt === null;
  const wired = state.plan.channelKind !== 'hand' && (state.status === 'open' || held);
  const inForce = state.adjusted?.coefficients ?? state.plan.inForce;
  const trace = useLiveTrace(wired ? view : null, inFamily(state.plan), inForce);
  const [asking, setAsking] = useState<'abandon' | 'note' | null>(null);
  useScreenAwake(state.status === 'open');
  const keys = useMemo((): Keys => ({ Escape: ['Pause: the run waits', () => void navigate('/')] }), [navigate]);
  useKeys(keys);
  const now = useRef<HTMLElement>(null);
  const stepKey = state.current?.kind === 'decide' ? '' : `${state.current?.id}/${state.status}`;
  useEffect(() => {
    // The button that was pressed is gone: keys go on at the next one. A verdict is read first.
    if (stepKey && document.activeElement === document.body)
      now.current?.querySelector<HTMLElement>('[data-primary], .btn-primary')?.focus({ preventScroll: true });
  }, [stepKey]);
  const back = (step: Step) => {
    // What was captured once and is to be captured anew waits for a word.
    disarmCup(view.runId, step);
    send({ type: 'step-reopened', stepId: step.id, ...momentOn(trace) });
  };

  const quiet = <QuietActions setAsking={setAsking} state={state} navigate={navigate} />;

  return (
    <main className="flex-1 flex flex-col">
      <NotTaken runId={view.runId} />
      <StillHeld run={run} trace={trace} />
      <Withdrawn state={state} />
      <div className="flex-1 grid lg:grid-cols-[300px_1fr_326px] content-start lg:content-stretch">
        <Boundary what="The step sheet" until={[state]} beside={<div className="max-lg:hidden">{quiet}</div>}>
          <StepSheet state={state} onBack={back}>
            <div className="max-lg:hidden">{quiet}</div>
          </StepSheet>
        </Boundary>
        <section
          ref={now}
          aria-label="Now"
          className="px-4 lg:px-[22px] py-4 lg:py-5 lg:border-x border-base-300 max-lg:border-t min-w-0"
        >
          <Boundary what="This step" until={[state]}>
            <RunNow run={run} trace={trace} />
          </Boundary>
          {view.hands && (state.status === 'open' || held) && (
            <Hands channelId={view.channelId} standards={state.plan.points.map((p) => p.standard.name)} />
          )}
        </section>
        <Boundary what="What was found so far" until={[state]}>
          <FoundSoFar state={state} />
        </Boundary>
        <div className="lg:hidden px-4 pb-4">{quiet}</div>
      </div>
      <AskedWords asking={asking} setAsking={setAsking} send={send} />
    </main>
  );
}

function QuietActions({
  setAsking,
  state,
  navigate,
}: {
  setAsking: (what: 'abandon' | 'note') => void;
  state: RunState;
  navigate: NavigateFunction;
}) {
  return (
    <div className="flex gap-1 flex-wrap -ml-3 lg:mt-2">
      <button type="button" className={QUIET} onClick={() => setAsking('note')}>
        Note
      </button>
      {state.status === 'open' && (
        <>
          <button type="button" className={QUIET} onClick={() => setAsking('abandon')}>
            Abandon
          </button>
          <button type="button" className={QUIET} onClick={() => void navigate('/')}>
            Pause <kbd className="key max-lg:hidden">Esc</kbd>
          </button>
        </>
      )}
    </div>
  );
}

function AskedWords({
  asking,
  setAsking,
  send,
}: {
  asking: 'abandon' | 'note' | null;
  setAsking: (value: 'abandon' | 'note' | null) => void;
  send: BenchRun['send'];
}) {
  return (
    <Words
      open={asking !== null}
      title={asking === 'abandon' ? 'Abandon this run?' : 'Add a note'}
      text={
        asking === 'abandon'
          ? 'It stays in the record with what was captured. Nothing is adjusted by it. Say why, in a few words.'
          : 'Kept with the run, with the time.'
      }
      action={asking === 'abandon' ? 'Abandon the run' : 'Keep the note'}
      onClose={() => setAsking(null)}
      onWords={(text) => {
        send(asking === 'abandon' ? { type: 'abandoned', because: text } : { type: 'noted', text });
        setAsking(null);
      }}
    />
  );
}

/** A bottle of this run that was used up or withdrawn since it began. */
function Withdrawn({ state }: { state: BenchRun['state'] }) {
  const { data } = useShelfQuery();
  const from = state.startedAt.slice(0, 10);
  const gone = (data?.lots ?? []).filter(
    (l) => l.usedUpOn !== null && l.usedUpOn >= from && state.plan.points.some((p) => p.lot.id === l.lotId),
  );
  if (state.status !== 'open' || !gone.length) return null;
  return (
    <div className="px-4 lg:px-7 py-3 border-b border-base-300" role="status">
      {gone.map((l) => (
        <Notice key={l.lotId} kind="care">
          Lot {l.label} was used up or withdrawn on {dayOf(l.usedUpOn!)}. What was captured from it stays in the record.
          Go back on the sheet and capture from another bottle, or note why it stands.
        </Notice>
      ))}
    </div>
  );
}

function Words({
  open,
  title,
  text,
  action,
  onWords,
  onClose,
}: {
  open: boolean;
  title: string;
  text: string;
  action: string;
  onWords: (text: string) => void;
  onClose: () => void;
}) {
  const [words, setWords] = useState('');
  return (
    <Dialog open={open} title={title} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!words.trim()) return;
          onWords(words.trim());
          setWords('');
        }}
      >
        <p className="mb-3">{text}</p>
        <textarea
          autoFocus
          className="textarea w-full"
          rows={3}
          maxLength={500}
          aria-label={title}
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <button className="btn btn-primary h-14 mt-3" disabled={!words.trim()}>
          {action}
        </button>
      </form>
    </Dialog>
  );
}

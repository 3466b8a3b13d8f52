import { useState } from 'react';
import type { RunEventBody } from '@frustum/core';
import { eventWords } from '@frustum/formats';
import { drop, sendAgain, tellInWords, type SetAside } from '../../app/outbox.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { hourOf } from '../../format/dates.ts';
import { Notice } from '../../ui/notice.tsx';

/** What the operator calls each kind of event. */
const DONE: Readonly<Record<Exclude<RunEventBody['type'], 'started'>, string>> = {
  'step-done': 'Step done',
  'step-reopened': 'Back to a step',
  disturbed: 'Disturbance',
  captured: 'Capture',
  entered: 'Entry',
  skipped: 'Step passed over',
  photographed: 'Picture',
  warned: 'Warning',
  noted: 'Note',
  'hold-released': 'Release of the hold',
  decided: 'Decision',
  adjusted: 'Adjustment',
  'adjustment-refused': 'Refusal by the instrument',
  closed: 'End of the run',
  abandoned: 'Run abandoned',
};
const NONE: readonly SetAside[] = [];
/** As long as a note may be. */
const MAX_CHARACTERS = 2000;

/** What this device did and the server would not take, each with its reason: kept here until somebody sends or drops it. */
export function NotTaken({ runId }: { runId: string }) {
  const refused = useAppSelector((s) => s.outbox.refused[runId]) ?? NONE;
  const dispatch = useAppDispatch();
  if (!refused.length) return null;
  return (
    <div className="px-4 lg:px-7 py-3 border-b border-base-300 grid gap-3">
      {refused.map(({ event, problem }) => (
        <Notice key={`${event.device}/${event.counter}`} kind="trouble" role="alert">
          <p>
            <b>
              {DONE[event.body.type]}, {hourOf(event.at)}: kept on this device only.
            </b>{' '}
            {problem.detail}
          </p>
          <div className="flex gap-2 flex-wrap mt-2">
            <button
              type="button"
              className="btn btn-outline h-12"
              onClick={() => void dispatch(sendAgain({ runId, event }))}
            >
              Send it again
            </button>
            <button type="button" className="btn btn-ghost h-12" onClick={() => void dispatch(drop({ runId, event }))}>
              I have read this: drop it
            </button>
          </div>
          <InWords runId={runId} aside={{ event, problem }} />
        </Notice>
      ))}
    </div>
  );
}

/** A note is always taken: it says what happened where the event itself cannot stand. */
function InWords({ runId, aside: { event } }: { runId: string; aside: SetAside }) {
  const dispatch = useAppDispatch();
  const [text, setText] = useState(() =>
    `Not taken by the server: ${eventWords(event.body)}.`.slice(0, MAX_CHARACTERS),
  );
  return (
    <details className="mt-1">
      <summary className="cursor-pointer py-2 underline w-fit">Change it into a note</summary>
      <label className="grid gap-1 max-w-2xl">
        <span className="sub text-sm">What the run should say instead</span>
        <textarea
          className="textarea w-full min-h-20 text-base"
          maxLength={MAX_CHARACTERS}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      <button
        type="button"
        className="btn btn-outline h-12 mt-2"
        disabled={!text.trim()}
        onClick={() => void dispatch(tellInWords({ runId, event, text: text.trim() }))}
      >
        Keep this note
      </button>
    </details>
  );
}

import type { RunEventBody } from '@frustum/core';
import { drop, sendAgain, type SetAside } from '../../app/outbox.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { hourOf } from '../../format/dates.ts';
import { Notice } from '../../ui/notice.tsx';

/** What each kind of event is called by whoever did it. */
const DONE: Readonly<Record<Exclude<RunEventBody['type'], 'started'>, string>> = {
  'step-done': 'A step that was done',
  'step-reopened': 'Going back to a step',
  disturbed: 'A disturbance',
  captured: 'A capture',
  entered: 'What was entered',
  skipped: 'A step that was passed over',
  photographed: 'A picture',
  warned: 'What a warning said',
  noted: 'A note',
  'hold-released': 'The release of the hold',
  decided: 'A decision',
  adjusted: 'An adjustment',
  'adjustment-refused': 'That the instrument refused it',
  closed: 'The end of the run',
  abandoned: 'Abandoning the run',
};
const NONE: readonly SetAside[] = [];

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
            {DONE[event.body.type]} of {hourOf(Date.parse(event.at))} is kept on this device only: {problem.detail}
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
        </Notice>
      ))}
    </div>
  );
}

import { Notice } from './notice.tsx';
import { problemOf } from '../format/problem.ts';

/** Takes back what was written down, while that can be done, and says why it is refused. */
export function TakeBack({
  can,
  busy,
  error,
  onTake,
}: {
  can: boolean;
  busy: boolean;
  /** as a mutation gives it */
  error: unknown;
  onTake: () => void;
}) {
  return (
    <>
      {can && (
        <button type="button" className="btn btn-sm h-11" disabled={busy} onClick={onTake}>
          Take it back
        </button>
      )}
      {error != null && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </>
  );
}

import { problemOf, type useTakeBackServiceMutation } from '../app/api.ts';
import { Notice } from './notice.tsx';

type Trouble = ReturnType<typeof useTakeBackServiceMutation>[1]['error'];

/** Takes back what was written down, while that can be done, and says why it is refused. */
export function TakeBack({
  can,
  busy,
  error,
  onTake,
}: {
  can: boolean;
  busy: boolean;
  error: Trouble;
  onTake: () => void;
}) {
  return (
    <>
      {can && (
        <button type="button" className="btn btn-sm h-11" disabled={busy} onClick={onTake}>
          Take it back
        </button>
      )}
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </>
  );
}

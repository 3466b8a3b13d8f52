import type { ClockDoubt } from '@frustum/contract';
import { timeOf } from '../format/dates.ts';
import { PageBar } from '../ui/page-bar.tsx';
import { useConfirmClockMutation } from './api.ts';
import { problemOf } from '../format/problem.ts';

/** On every page: the time of the server's computer is not believed, and what that means until somebody has looked. */
export function ClockDoubtBar({ doubt: { because, saidMs, reckonedMs } }: { doubt: ClockDoubt }) {
  const [confirm, { isLoading, error }] = useConfirmClockMutation();
  const said = <span className="fig">{timeOf(saidMs)}</span>;
  const reckoned = <span className="fig">{timeOf(reckonedMs)}</span>;
  return (
    <PageBar name="The server’s clock may be wrong">
      <p className="max-w-5xl">
        <b>The clock of the server’s computer may be wrong.</b>{' '}
        {because === 'jumped' ? (
          <>
            It jumped from {reckoned} to {said}.
          </>
        ) : (
          <>
            It said {said}, but the newest record is of {reckoned}.
          </>
        )}{' '}
        Until it is right, Frustum goes on from {reckoned}: no alarm is raised or ended, and runs say that their time is
        unsure. Set the clock, and this bar goes by itself.
      </p>
      <p className="flex flex-wrap gap-3 items-center mt-2">
        <button
          type="button"
          className="btn btn-outline h-12 font-normal"
          disabled={isLoading}
          onClick={() => void confirm()}
        >
          The clock is right as it is
        </button>
        {error && <span role="alert">{problemOf(error).detail}</span>}
      </p>
    </PageBar>
  );
}

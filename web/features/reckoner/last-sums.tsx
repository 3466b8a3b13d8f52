import { useNavigate } from 'react-router';
import { SUMS } from '@frustum/core';
import { forgotten, typed } from '../../app/reckoner-memory.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';

/** The last sums, newest first: a tap puts one back as it stood. */
export function LastSums() {
  const last = useAppSelector((s) => s.reckoner.last);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    <section aria-label="Last sums" className="px-4 lg:px-[22px] py-4 lg:py-5 max-lg:border-t border-base-300">
      <h2>Last sums</h2>
      {last.length === 0 && (
        <p className="sub mt-2 text-[15px]">
          What you work out is kept here, on this device. Type into a sum to begin.
        </p>
      )}
      <ul className="mt-2">
        {last.map(({ visit, sumId, input, line }) => (
          <li key={visit} className="border-t border-base-300">
            <button
              type="button"
              className="w-full text-left py-2 max-lg:py-3"
              onClick={() => {
                dispatch(typed({ sumId, input }));
                void navigate(`/reckoner/${sumId}`);
              }}
            >
              <span className="block sub text-sm">{SUMS.find((s) => s.id === sumId)?.title ?? sumId}</span>
              <span className="fig text-[15px] break-words">{line}</span>
            </button>
          </li>
        ))}
      </ul>
      {last.length > 0 && (
        <button
          type="button"
          className="btn btn-ghost btn-sm font-normal mt-2 -ml-2"
          onClick={() => dispatch(forgotten())}
        >
          Forget them
        </button>
      )}
    </section>
  );
}

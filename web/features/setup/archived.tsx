import type { SetUpLoop, SetUpSite } from '@frustum/contract';
import { useChangeLoopMutation, useChangeSiteMutation } from '../../app/api.ts';
import { dayOf } from '../../format/dates.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';

interface Away {
  readonly name: string;
  readonly since: string | null;
  readonly busy: boolean;
  readonly error: unknown;
  readonly onBack: () => void;
}

const AwayLine = ({ name, since, busy, error, onBack }: Away) => (
  <li className="border-t border-base-300 flex flex-wrap items-center gap-3 py-2">
    <span className="sub">
      {name}
      {since && `, archived on ${dayOf(since)}`}
    </span>
    <button type="button" className="btn btn-outline border-base-300 h-12 ml-auto" disabled={busy} onClick={onBack}>
      Bring back<span className="sr-only"> {name}</span>
    </button>
    {error !== undefined && (
      <Notice kind="trouble" role="alert">
        {problemOf(error).detail}
      </Notice>
    )}
  </li>
);

/** A loop that was put away, with everything that it has been through. */
export function ArchivedLoop({ loop: { loopId, name, version, archivedAt } }: { loop: SetUpLoop }) {
  const [change, { error, isLoading }] = useChangeLoopMutation();
  const back = () => void change({ loopId, body: { version, to: { archived: false }, why: '' } });
  return <AwayLine name={name} since={archivedAt} busy={isLoading} error={error} onBack={back} />;
}

export function ArchivedSite({ site: { siteId, name, version, archivedAt } }: { site: SetUpSite }) {
  const [change, { error, isLoading }] = useChangeSiteMutation();
  const back = () => void change({ siteId, body: { version, to: { archived: false }, why: '' } });
  return <AwayLine name={name} since={archivedAt} busy={isLoading} error={error} onBack={back} />;
}

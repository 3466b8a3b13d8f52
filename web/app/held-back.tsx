import type { LoopRow } from '@frustum/contract';
import { PageBar } from '../ui/page-bar.tsx';
import { useReadChannelMutation } from './api.ts';

/**
 * On every page: the server reads no device, since its last two starts died soon. Channels are switched on one by one, so that
 * the one that ends it is found.
 */
export function HeldBack({ held, rows }: { held: readonly string[]; rows: readonly LoopRow[] }) {
  const [read, { isLoading }] = useReadChannelMutation();
  const loops = rows.filter((r) => held.includes(r.channelId));
  return (
    <PageBar name="Channels that are not read">
      <p>
        <b>Frustum does not read {held.length === 1 ? 'one channel' : `${held.length} channels`}.</b> Its last two
        starts ended within a minute, so it has begun without them. Read them again one by one: if it ends once more,
        switch off the one that you read last, in its set-up.
      </p>
      <details className="mt-1">
        <summary className="cursor-pointer py-2 underline w-fit">Read them again</summary>
        <ul className="flex gap-2 flex-wrap pb-1">
          {loops.map((r) => (
            <li key={r.channelId}>
              <button
                type="button"
                className="btn btn-outline h-12 font-normal"
                disabled={isLoading}
                onClick={() => void read(r.channelId)}
              >
                Read {r.loopName}
              </button>
            </li>
          ))}
        </ul>
      </details>
    </PageBar>
  );
}

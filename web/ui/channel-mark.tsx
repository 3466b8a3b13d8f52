import type { ChannelState } from '@frustum/contract';

const WORDS: Record<ChannelState, string> = { live: 'live', stale: 'stale', fault: 'fault', off: 'off' };

/** The state of a channel beside its value: a filled dot for live, a hollow one for stale and off, a bar for a fault. */
export function ChannelMark({ state }: { state: ChannelState }) {
  return (
    <span className="inline-flex items-center gap-1.5 text-sm whitespace-nowrap" data-channel={state}>
      <svg width={10} height={10} viewBox="0 0 10 10" aria-hidden="true">
        {state === 'fault' ? (
          <rect x={0} y={3.5} width={10} height={3} fill="currentColor" />
        ) : (
          <circle
            cx={5}
            cy={5}
            r={4}
            fill={state === 'live' ? 'var(--color-primary)' : 'none'}
            stroke={state === 'live' ? 'none' : 'currentColor'}
            strokeDasharray={state === 'off' ? '2 2' : undefined}
          />
        )}
      </svg>
      {WORDS[state]}
    </span>
  );
}

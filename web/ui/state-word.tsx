import type { MarginState } from '@frustum/core';

/** Shapes of the four states: the cone between its rails. Shape and word carry the state, colour only helps. */
const SHAPES: Record<MarginState, string> = {
  inside: 'M1 9V7L17 5V11Z',
  'near the edge': 'M1 9V7L17 1V15Z',
  outside: 'M1 9V7L17 -3V19Z',
  'not known': 'M1 9V7L17 3V13Z',
};

const COLOURS: Record<MarginState, string> = {
  inside: 'text-base-content',
  'near the edge': 'text-warning',
  outside: 'text-error',
  'not known': 'text-secondary',
};

export function StateWord({ state }: { state: MarginState }) {
  const unknown = state === 'not known';
  return (
    <span className={`flex items-center gap-2 font-semibold whitespace-nowrap ${COLOURS[state]}`}>
      <svg width={18} height={16} viewBox="0 -4 18 24" className="overflow-visible shrink-0" aria-hidden="true">
        <path
          d={SHAPES[state]}
          fill={unknown ? 'none' : 'currentColor'}
          stroke={unknown ? 'currentColor' : 'none'}
          strokeDasharray="3 2"
        />
        <path d="M0 0H18M0 16H18" stroke="var(--color-secondary)" strokeWidth={1} />
      </svg>
      {state}
    </span>
  );
}

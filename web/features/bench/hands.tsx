import { useEffect, useState } from 'react';
import type { Hands as Order, HandsView } from '@frustum/contract';
import { useHandsQuery, useMoveHandsMutation } from '../../app/api.ts';
import { Pill } from '../../ui/pill.tsx';
import { nameOf } from './places.ts';
import { MoreHands } from './more-hands.tsx';
import { problemOf } from '../../format/problem.ts';

/** Hands that do not answer are asked again, ms. */
const AGAIN_MS = 2000;
const RATES = [1, 5, 20];
const SMALL: readonly (readonly [string, Order['action'], string])[] = [
  ['Wiggle', 'wiggle', 'Swirl it: bubbles leave, the film is mixed in'],
  ['Tap', 'tap', 'Tap it: a loose bubble leaves'],
  ['Blot', 'blot', 'Shake or dab off what clings'],
];

/**
 * The stand-in's hands: where the probe is, a wiggle, what goes wrong, and how fast its clock runs. Only in the demo.
 *
 * @param standards names of this run's standards: their cups stand in front, all others further back
 */
export function Hands({ channelId, standards }: { channelId: string; standards: readonly string[] }) {
  const [away, setAway] = useState(false);
  const { data, error, isError } = useHandsQuery(channelId, { pollingInterval: away ? AGAIN_MS : 0 });
  const nobody = (error as { status?: number } | undefined)?.status === 404;
  useEffect(() => setAway(isError && !nobody), [isError, nobody]);
  const [move, { isLoading, error: unmoved }] = useMoveHandsMutation();
  // A channel of one's own beside the demo's: nothing simulated hangs on it.
  if (nobody) return null;
  if (error) return <p className="sub text-sm mt-3">The stand-in’s hands do not answer. Restart npm run demo.</p>;
  if (!data) return null;
  const inFront = (place: string) =>
    !place.startsWith('cup-') || place === data.place || standards.some((name) => place === `cup-${name}`);
  const order = (body: Order) => void move({ channelId, order: body });
  return (
    <div className="mt-3.5 border-t border-dashed border-base-300 pt-2.5" role="group" aria-label="Stand-in’s hands">
      <div className="flex flex-wrap gap-1.5 items-center">
        <span className="sub text-sm mr-1" title="This probe is simulated: move it here as you would the real one">
          Stand-in’s hands
        </span>
        {data.places.filter(inFront).map((place) => (
          <Pill
            key={place}
            text={nameOf(place)}
            title={place.startsWith('cup-') ? 'Into a fresh cup' : undefined}
            on={data.place === place}
            busy={isLoading}
            act={() => order({ action: 'move', place })}
          />
        ))}
        {SMALL.map(([text, action, title]) => (
          <Pill key={action} text={text} title={title} busy={isLoading} act={() => order({ action })} />
        ))}
        <span className="sub text-sm ml-1">clock</span>
        {RATES.map((rate) => (
          <Pill
            key={rate}
            text={`×${rate}`}
            on={data.clockRate === rate}
            busy={isLoading}
            act={() => order({ action: 'clock', rate })}
          />
        ))}
      </div>
      {unmoved && (
        <p role="alert" className="text-sm mt-2">
          {problemOf(unmoved).detail}
        </p>
      )}
      <WrongNow view={data} />
      <MoreHands view={data} cups={data.places.filter((p) => !inFront(p))} busy={isLoading} order={order} />
    </div>
  );
}

/** What is wrong with the stand-in just now, so that nobody forgets it switched on. */
function WrongNow({ view }: { view: HandsView }) {
  const on = view.faults.filter((f) => f.severity > 0);
  if (!on.length && !view.plugged) return null;
  const words = [
    ...(view.plugged ? [`a box is plugged in instead of the probe (${view.plugged.mv ?? view.plugged.us})`] : []),
    ...on.map((f) => `${f.name}, ${Math.round(100 * f.severity)} %`),
  ];
  return <p className="text-sm mt-2">Switched on: {words.join('; ')}.</p>;
}

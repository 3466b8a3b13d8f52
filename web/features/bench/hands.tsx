import { useHandsQuery, useMoveHandsMutation } from '../../app/api.ts';

const NAMES: Record<string, string> = { process: 'Water', rinse: 'Rinse', air: 'Air' };
const nameOf = (liquid: string) => NAMES[liquid] ?? liquid.replace('cup-', 'Cup ');
const RATES = [1, 5, 20];

/** The stand-in's hands: where the probe is, a wiggle, and how fast its clock runs. Only in the demo. */
export function Hands({ channelId }: { channelId: string }) {
  const { data, isError } = useHandsQuery(channelId);
  const [move, { isLoading }] = useMoveHandsMutation();
  if (isError) return <p className="sub text-sm mt-3">The stand-in’s hands do not answer. Restart npm run demo.</p>;
  if (!data) return null;
  const pill = (text: string, on: boolean, act: () => void) => (
    <button
      key={text}
      type="button"
      disabled={isLoading}
      aria-pressed={on}
      onClick={act}
      className={`border rounded-full px-2.5 py-1.5 max-lg:py-2.5 text-sm ${on ? 'bg-neutral text-neutral-content border-neutral' : 'border-base-300'}`}
    >
      {text}
    </button>
  );
  return (
    <div className="mt-3.5 border-t border-dashed border-base-300 pt-2.5" role="group" aria-label="Stand-in’s hands">
      <div className="flex flex-wrap gap-1.5 items-center">
        <span className="sub text-sm mr-1" title="This probe is simulated: move it here as you would the real one">
          Stand-in’s hands
        </span>
        {data.liquids.map((liquid) =>
          pill(
            nameOf(liquid),
            data.liquid === liquid,
            () => void move({ channelId, order: { action: 'move', liquid } }),
          ),
        )}
        {pill('Wiggle', false, () => void move({ channelId, order: { action: 'wiggle' } }))}
        <span className="sub text-sm ml-1">clock</span>
        {RATES.map((rate) =>
          pill(`×${rate}`, data.clockRate === rate, () => void move({ channelId, order: { action: 'clock', rate } })),
        )}
      </div>
    </div>
  );
}

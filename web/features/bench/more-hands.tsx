import { typedNumber } from '../../format/typed.ts';
import { useState } from 'react';
import type { Hands as Order, HandsView } from '@frustum/contract';
import { Pill } from '../../ui/pill.tsx';
import { nameOf } from './places.ts';

const CARE: readonly (readonly [string, Order['action'], string])[] = [
  ['Clean', 'clean', 'Scale, dirt and most of a blocked junction go'],
  ['Refill', 'refill', 'Fresh electrolyte into the reference'],
  ['Soak', 'soak', 'Cap off, into storage solution'],
];
const CABLE = 'cable pulled';

/** What one does less often to the stand-in: care for it, plug boxes in, pull its cable, or let something go wrong. */
export function MoreHands({
  view,
  cups,
  busy,
  order,
}: {
  view: HandsView;
  /** cups that this run does not ask for */
  cups: readonly string[];
  busy: boolean;
  order: (body: Order) => void;
}) {
  const pulled = (view.faults.find((f) => f.name === CABLE)?.severity ?? 0) > 0;
  return (
    <details className="mt-2">
      <summary className="sub text-sm cursor-pointer py-1.5">Care, boxes and faults</summary>
      <div className="flex flex-wrap gap-1.5 items-center mt-1">
        {CARE.map(([text, action, title]) => (
          <Pill key={action} text={text} title={title} busy={busy} act={() => order({ action })} />
        ))}
        <Pill
          text={pulled ? 'Plug the cable in' : 'Pull the cable'}
          busy={busy}
          on={pulled}
          act={() => order({ action: 'fault', fault: CABLE, severity: pulled ? 0 : 1 })}
        />
      </div>
      {cups.length > 0 && (
        <div className="flex flex-wrap gap-1.5 items-center mt-2">
          {cups.map((place) => (
            <Pill key={place} text={nameOf(place)} busy={busy} act={() => order({ action: 'move', place })} />
          ))}
        </div>
      )}
      <Boxes view={view} busy={busy} order={order} />
      <Faults view={view} busy={busy} order={order} />
    </details>
  );
}

/** A shorting plug, or a box with a voltage. */
function Boxes({ view, busy, order }: { view: HandsView; busy: boolean; order: (body: Order) => void }) {
  const [box, setBox] = useState('177.5');
  const value = Number(typedNumber(box));
  const bad = !Number.isFinite(value) || Math.abs(value) > 3000;
  return (
    <div className="flex flex-wrap gap-1.5 items-center mt-2">
      <Pill text="Shorting plug" busy={busy} act={() => order({ action: 'plug', value: 0 })} />
      <label className="text-sm flex items-center gap-1.5">
        box, mV
        <input
          className={`input input-sm w-24 fig ${bad ? 'input-error' : ''}`}
          inputMode="decimal"
          value={box}
          aria-invalid={bad}
          title={bad ? 'The box goes from −3000 to 3000.' : undefined}
          onChange={(e) => setBox(e.target.value)}
        />
      </label>
      <Pill text="Plug the box in" busy={busy || bad} act={() => order({ action: 'plug', value })} />
      <Pill text="Probe back in" busy={busy || !view.plugged} act={() => order({ action: 'unplug' })} />
    </div>
  );
}

/** What can go wrong with it, and how badly. */
function Faults({ view, busy, order }: { view: HandsView; busy: boolean; order: (body: Order) => void }) {
  const [name, setName] = useState('');
  const [severity, setSeverity] = useState(0.7);
  const chosen = view.faults.find((f) => f.name === name);
  return (
    <>
      <div className="flex flex-wrap gap-1.5 items-center mt-2">
        <label className="text-sm flex items-center gap-1.5">
          Let go wrong
          <select
            aria-label="What goes wrong"
            className="select select-sm w-52"
            value={name}
            onChange={(e) => setName(e.target.value)}
          >
            <option value="">pick what</option>
            {view.faults.map((f) => (
              <option key={f.name}>{f.name}</option>
            ))}
          </select>
        </label>
        <label className="text-sm flex items-center gap-1.5">
          how badly
          <input
            type="range"
            className="range range-xs w-24"
            min={0.1}
            max={1}
            step={0.1}
            value={severity}
            onChange={(e) => setSeverity(Number(e.target.value))}
          />
        </label>
        <Pill
          text={chosen?.severity ? 'Switch it off' : 'Switch it on'}
          busy={busy || !chosen}
          act={() => order({ action: 'fault', fault: name, severity: chosen?.severity ? 0 : severity })}
        />
      </div>
      {chosen && <p className="sub text-sm mt-1">It shows: {chosen.shows}.</p>}
    </>
  );
}

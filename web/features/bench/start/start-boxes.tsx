import { unitOf, type LoopRow } from '@frustum/contract';
import type { BoxPoint } from '@frustum/core';
import type { Choice } from './start-choice.ts';

/** The boxes of an electrical check: what each stands for, and whether the transmitter may be trimmed there. */
export function StartBoxes({
  row,
  choice,
  onChange,
}: {
  row: LoopRow;
  choice: Choice;
  onChange: (part: Partial<Choice>) => void;
}) {
  const unit = unitOf(row.channel);
  const { boxes } = choice;
  const put = (i: number, part: Partial<BoxPoint>) =>
    onChange({ boxes: boxes.map((b, k) => (k === i ? { ...b, ...part } : b)) });
  return (
    <section aria-label="Boxes" className="mt-6">
      <h2>Which boxes, in this order</h2>
      {boxes.map((box, i) => (
        <BoxRow key={i} i={i} box={box} put={put} unit={unit} boxes={boxes} onChange={onChange} />
      ))}
      {boxes.length < 5 && (
        <button
          type="button"
          className="btn btn-ghost h-12"
          onClick={() =>
            onChange({ boxes: [...boxes, { label: `box ${boxes.length + 1}`, applied: 0, use: 'adjust' }] })
          }
        >
          One more box
        </button>
      )}
      <label className="sub text-sm block mt-3">
        Limit, % of span
        <input
          className="input h-12 w-28 block fig text-base text-base-content"
          inputMode="decimal"
          value={choice.limitPercent}
          onChange={(e) => onChange({ limitPercent: e.target.value })}
        />
      </label>
    </section>
  );
}

function BoxRow({
  i,
  box,
  put,
  unit,
  boxes,
  onChange,
}: {
  i: number;
  box: BoxPoint;
  put: (i: number, part: Partial<BoxPoint>) => void;
  unit: string;
  boxes: readonly BoxPoint[];
  onChange: (part: Partial<Choice>) => void;
}) {
  return (
    <div className="flex flex-wrap gap-2.5 items-end border-t border-base-300 py-2.5 mt-2">
      <label className="sub text-sm">
        Box
        <input
          className="input h-12 w-36 block text-base text-base-content"
          maxLength={40}
          value={box.label}
          onChange={(e) => put(i, { label: e.target.value })}
        />
      </label>
      <Applied unit={unit} value={box.applied} onValue={(applied) => put(i, { applied })} />
      <label className="sub text-sm">
        It is
        <select
          className="select h-12 w-44 flex text-base text-base-content"
          value={box.use}
          onChange={(e) => put(i, { use: e.target.value as BoxPoint['use'] })}
        >
          <option value="adjust">may be adjusted</option>
          <option value="verify">only looked at</option>
        </select>
      </label>
      {boxes.length > 1 && (
        <button
          type="button"
          className="btn btn-ghost h-12"
          onClick={() => onChange({ boxes: boxes.filter((_, k) => k !== i) })}
        >
          Take out
        </button>
      )}
    </div>
  );
}

function Applied({ unit, value, onValue }: { unit: string; value: number; onValue: (value: number) => void }) {
  return (
    <label className="sub text-sm">
      Stands for, {unit}
      <input
        type="number"
        step="any"
        className="input h-12 w-32 block fig text-base text-base-content"
        defaultValue={value}
        onChange={(e) => {
          if (Number.isFinite(e.target.valueAsNumber)) onValue(e.target.valueAsNumber);
        }}
      />
    </label>
  );
}

import { signed } from '../../../format/numbers.ts';

/** In which steps a display takes an offset, and in which unit. */
export function DisplaySteps({
  stepText,
  setStepText,
  unit,
  setUnit,
}: {
  stepText: string;
  setStepText: (value: string) => void;
  unit: '°C' | '°F';
  setUnit: (value: '°C' | '°F') => void;
}) {
  return (
    <div className="flex gap-2.5 flex-wrap items-end mt-4">
      <label className="sub text-sm">
        The display takes steps of
        <input
          className="input h-14 w-28 block fig text-lg text-base-content"
          inputMode="decimal"
          value={stepText}
          onChange={(e) => setStepText(e.target.value)}
        />
      </label>
      <label className="sub text-sm">
        in
        <select
          className="select h-14 w-24 flex text-base-content"
          value={unit}
          onChange={(e) => setUnit(e.target.value as '°C' | '°F')}
        >
          <option>°C</option>
          <option>°F</option>
        </select>
      </label>
    </div>
  );
}

/** What is entered, and what remains of it. */
export function OffsetToEnter({
  made,
  unit,
  wanted,
}: {
  made: { readonly entered: number; readonly remains: number };
  unit: '°C' | '°F';
  wanted: number;
}) {
  return (
    <p className="mt-5 text-lg">
      Change its offset by{' '}
      <b className="fig text-[40px] leading-none" data-testid="offset">
        {signed(made.entered, 2)} {unit}
      </b>
      <span className="block sub mt-1">
        Wanted {signed(wanted, 2)} {unit}; {signed(made.remains, 2)} {unit} remains, and stays in the record.
      </span>
    </p>
  );
}

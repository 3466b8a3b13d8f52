import { poursStandards, type SensorState } from '@frustum/core';
import type { LoopRow, ShelfView } from '@frustum/contract';
import { StartBoxes } from './start-boxes.tsx';
import { firstChoice, stepWords, USUAL_SECONDS, type Choice, type Offered, type SchoolKind } from './start-choice.ts';
import { StartPoints } from './start-points.tsx';
import type { Starting } from './use-start.ts';

export const STATES: readonly (readonly [SensorState, string])[] = [
  ['in-use', 'in use'],
  ['new', 'new, from its box'],
  ['stored-wet', 'stored wet'],
  ['stored-dry', 'stored dry'],
  ['cleaned', 'just cleaned'],
  ['suspect', 'suspect'],
];

/** Everything that can be chosen otherwise. */
export function Otherwise({ at, row, shelf }: { at: Starting; row: LoopRow; shelf: ShelfView }) {
  const { offers, offer, choice, setChoice, change, today } = at;
  return (
    <>
      <Procedures
        offers={offers}
        picked={offer}
        onPick={(next) =>
          setChoice({
            ...firstChoice(row, next, shelf.standards),
            sensorState: choice.sensorState,
            conditions: choice.conditions,
            because: choice.because,
          })
        }
      />
      {poursStandards(choice.procedure) && (
        <StartPoints row={row} own={offer.own} choice={choice} shelf={shelf} today={today} onChange={change} />
      )}
      {choice.procedure === 'electrical' && <StartBoxes row={row} choice={choice} onChange={change} />}
      {row.channel.kind !== 'hand' && poursStandards(choice.procedure) && (
        <Schools row={row} choice={choice} onChange={change} />
      )}
      {choice.procedure !== 'electrical' && choice.procedure !== 'sample' && (
        <StateOfSensor choice={choice} change={change} />
      )}
    </>
  );
}

function StateOfSensor({ choice, change }: { choice: Choice; change: (part: Partial<Choice>) => void }) {
  return (
    <label className="block mt-5 sub text-sm">
      The sensor is
      <select
        className="select h-12 flex text-base text-base-content"
        value={choice.sensorState}
        onChange={(e) => change({ sensorState: e.target.value as SensorState })}
      >
        {STATES.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Six or seven ways to go: the usual one is open, the others are a tap away. */
function Procedures({
  offers,
  picked,
  onPick,
}: {
  offers: readonly Offered[];
  picked: Offered;
  onPick: (offer: Offered) => void;
}) {
  return (
    <fieldset className="mt-5">
      <legend className="font-[650]">Procedure</legend>
      <div className="flex flex-wrap gap-2 mt-2">
        {offers.map((o) => (
          <label
            key={o.key}
            className={`btn h-14 font-normal has-focus-visible:outline-2 ${o === picked ? 'btn-neutral' : 'btn-outline border-base-300'}`}
          >
            <input
              type="radio"
              name="procedure"
              className="sr-only"
              checked={o === picked}
              onChange={() => onPick(o)}
            />
            {o.name}
          </label>
        ))}
      </div>
      <p className="sub mt-2 max-w-prose">{picked.text}</p>
    </fieldset>
  );
}

function Schools({
  row,
  choice,
  onChange,
}: {
  row: LoopRow;
  choice: Choice;
  onChange: (part: Partial<Choice>) => void;
}) {
  const schools: readonly (readonly [SchoolKind, string])[] = [
    ['statistical', `By forecast: at most ${stepWords(row)} still to come, then once more after a wiggle`],
    ['fixed-time', 'By the clock: so many seconds in each cup'],
    ['hand-count', 'By count: no digit moves for so many seconds, then once more after a wiggle'],
  ];
  return (
    <fieldset className="mt-6">
      <legend className="font-[650]">When may a reading be captured</legend>
      {schools.map(([value, text]) => (
        <label key={value} className="flex items-center gap-3 min-h-14 cursor-pointer">
          <input
            type="radio"
            name="school"
            className="radio"
            checked={choice.school === value}
            onChange={() => onChange({ school: value, seconds: USUAL_SECONDS[value] })}
          />
          {text}
        </label>
      ))}
      {choice.school !== 'statistical' && (
        <label className="flex items-center gap-3 ml-9">
          <input
            className="input h-12 w-24 fig"
            inputMode="numeric"
            aria-label="Seconds"
            value={choice.seconds}
            onChange={(e) => onChange({ seconds: e.target.value.replace(/\D/g, '') })}
          />
          s
        </label>
      )}
    </fieldset>
  );
}

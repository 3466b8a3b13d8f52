import { CONDITIONS, conditionWords, type ConditionName, type ConditionOfRun } from '@frustum/core';
import { upper } from '../../../format/in-family.ts';
import { Notice } from '../../../ui/notice.tsx';
import { conditionTrouble, type Choice } from './start-choice.ts';

/** What surrounds the sensor, as far as its arithmetic asks: from another loop, as set up, or as it is typed here. */
export function StartConditions({
  conditions,
  choice,
  onChange,
}: {
  conditions: readonly ConditionOfRun[];
  choice: Choice;
  onChange: (typed: Choice['conditions']) => void;
}) {
  if (!conditions.length) return null;
  return (
    <fieldset className="mt-4">
      <legend className="font-[650]">Conditions</legend>
      <div className="grid sm:grid-cols-2 gap-x-5 gap-y-3 mt-1">
        {conditions.map((condition) => (
          <Condition
            key={condition.name}
            condition={condition}
            typed={choice.conditions[condition.name] ?? ''}
            trouble={conditionTrouble(choice, condition.name)}
            onType={(name, text) => onChange({ ...choice.conditions, [name]: text })}
          />
        ))}
      </div>
    </fieldset>
  );
}

function Condition({
  condition,
  typed,
  trouble,
  onType,
}: {
  condition: ConditionOfRun;
  typed: string;
  trouble: string | null;
  onType: (name: ConditionName, text: string) => void;
}) {
  const { name, value } = condition;
  const { name: words, unit, hint } = CONDITIONS[name];
  const id = `condition-${name}`;
  return (
    <div>
      <label htmlFor={id} className="text-sm sub">
        {upper(words)}
        {words.startsWith(unit) ? '' : `, ${unit}`}
      </label>
      <input
        id={id}
        className={`input h-12 w-full text-base fig ${trouble ? 'input-error' : ''}`}
        inputMode="text"
        autoComplete="off"
        maxLength={40}
        placeholder={String(Number(value.toPrecision(5)))}
        value={typed}
        aria-invalid={trouble ? true : undefined}
        aria-describedby={`${id}-says`}
        onChange={(e) => onType(name, e.target.value)}
      />
      <p id={`${id}-says`} className="sub text-sm mt-1">
        {typed.trim() && !trouble ? 'As typed, for this run. ' : `${fromWords(condition)} `}
        {hint}
      </p>
      {trouble && (
        <div className="mt-1">
          <Notice kind="trouble" role="status">
            {trouble}
          </Notice>
        </div>
      )}
    </div>
  );
}

/** Where the figure in the empty field comes from, as a sentence. */
function fromWords(condition: ConditionOfRun): string {
  const [, ...rest] = conditionWords(condition).split(', ');
  return `${upper(rest.join(', '))}.`;
}

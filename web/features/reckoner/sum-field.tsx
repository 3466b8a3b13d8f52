import { inWords, shown, type Solved, type SumField } from '@frustum/core';

/** One figure of a sum: typed into, or found; typing into a found one turns the sum round. */
export function Field({
  field,
  text,
  solved,
  turns,
  onType,
}: {
  field: SumField;
  text: string | undefined;
  solved: Solved;
  /** another direction takes this field as given */
  turns: boolean;
  onType: (text: string) => void;
}) {
  const { way, answer, given, troubles } = solved;
  const isFound = way.finds.includes(field.id);
  const trouble = troubles[field.id];
  const usual = text === undefined;
  const plain = (value: number) => shown(value, field.decimals).replace('−', '-');
  const value = isFound ? (answer ? plain(answer.found[field.id]!) : '') : (text ?? plain(field.usual));
  const inOwnUnit = given[field.id];
  const converted = inOwnUnit !== undefined && Math.abs(parseFloat((text ?? '').replace(',', '.')) - inOwnUnit) > 1e-9;
  const typedUnit = !isFound && !usual && field.unit !== '' && /[^\d\s.,+−-]/u.test(text ?? '');
  const id = `field-${field.id}`;
  return (
    <div>
      <label className="sub text-sm block mb-1" htmlFor={id}>
        {field.name}
        {isFound && <span className="text-primary font-semibold"> · found</span>}
      </label>
      <BoxOfField
        id={id}
        isFound={isFound}
        turns={turns}
        trouble={trouble}
        usual={usual}
        value={value}
        onType={onType}
        field={field}
        typedUnit={typedUnit}
      />
      {trouble ? (
        <p id={`${id}-trouble`} className="text-error text-sm mt-1">
          {trouble}
        </p>
      ) : (
        typedUnit &&
        converted && <p className="sub text-sm mt-1 fig">= {inWords({ ...field, decimals: undefined }, inOwnUnit)}</p>
      )}
    </div>
  );
}

function BoxOfField({
  id,
  isFound,
  turns,
  trouble,
  usual,
  value,
  onType,
  field,
  typedUnit,
}: {
  id: string;
  isFound: boolean;
  turns: boolean;
  trouble: string | undefined;
  usual: boolean;
  value: string;
  onType: (text: string) => void;
  field: SumField;
  typedUnit: boolean;
}) {
  return (
    <div className="relative">
      <input
        id={id}
        readOnly={isFound && !turns}
        inputMode="text"
        autoComplete="off"
        spellCheck={false}
        maxLength={40}
        aria-invalid={trouble ? true : undefined}
        aria-describedby={trouble ? `${id}-trouble` : undefined}
        className={`input w-full h-12 text-[20px] fig pr-24 ${isFound ? 'border-dashed border-primary bg-base-200' : ''} ${usual && !isFound ? 'text-secondary' : ''} ${trouble ? 'border-error' : ''}`}
        value={value}
        onFocus={(e) => e.target.select()}
        onChange={(e) => onType(e.target.value)}
      />
      {field.unit && !typedUnit && (
        <span
          className="absolute right-3 top-0 h-12 flex items-center sub text-[15px] pointer-events-none"
          aria-hidden="true"
        >
          {field.unit}
        </span>
      )}
    </div>
  );
}

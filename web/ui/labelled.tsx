import { useId } from 'react';

interface Labelled {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly className?: string;
}

/** A field under its label, outside of a form that keeps its values. */
export function LabelledInput({
  label,
  value,
  onChange,
  className = '',
  hint,
  keyboard,
  maxLength,
  type = 'text',
}: Labelled & {
  readonly hint?: string;
  readonly keyboard?: 'decimal' | 'numeric' | undefined;
  readonly maxLength?: number;
  readonly type?: 'text' | 'time';
}) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="text-sm sub">
        {label}
      </label>
      <input
        id={id}
        type={type}
        className={`input h-12 w-full text-base ${keyboard ? 'fig' : ''}`}
        autoComplete="off"
        inputMode={keyboard}
        placeholder={hint}
        maxLength={maxLength}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </div>
  );
}

/** A pick under its label. */
export function LabelledSelect({
  label,
  value,
  onChange,
  className = '',
  options,
}: Labelled & { readonly options: readonly (readonly [value: string, words: string])[] }) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="text-sm sub">
        {label}
      </label>
      <select id={id} className="select h-12 w-full text-base" value={value} onChange={(e) => onChange(e.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

import { useFormContext, type FieldError, type FieldValues, type Path } from 'react-hook-form';

/** The message at a field, also at one inside a group: "channel.host". */
function useTrouble(name: string): string | undefined {
  const { formState } = useFormContext();
  const at = name
    .split('.')
    .reduce<unknown>((e, key) => (e as Record<string, unknown> | undefined)?.[key], formState.errors);
  return (at as FieldError | undefined)?.message;
}

interface TextProps<Form extends FieldValues> {
  name: Path<Form>;
  label: string;
  hint?: string;
  decimal?: boolean;
  type?: string;
  list?: string;
}

export function Text<Form extends FieldValues>({ name, label, hint, decimal, type = 'text', list }: TextProps<Form>) {
  const { register } = useFormContext<Form>();
  const message = useTrouble(name);
  const id = name.replace('.', '-');
  return (
    <div>
      <label htmlFor={id} className="text-sm sub">
        {label}
      </label>
      <input
        id={id}
        type={type}
        list={list}
        inputMode={decimal ? 'decimal' : undefined}
        autoComplete="off"
        placeholder={hint}
        className={`input h-12 w-full text-base ${decimal ? 'fig' : ''} ${message ? 'input-error' : ''}`}
        aria-invalid={message ? true : undefined}
        aria-describedby={message ? `${id}-trouble` : undefined}
        {...register(name)}
      />
      {message && (
        <p id={`${id}-trouble`} className="text-error text-sm mt-1">
          {message}
        </p>
      )}
    </div>
  );
}

/** A pick among a few. */
export function Pick<Form extends FieldValues>({
  name,
  label,
  options,
  onPicked,
}: {
  name: Path<Form>;
  label: string;
  options: readonly (readonly [value: string, words: string])[];
  onPicked?: (value: string) => void;
}) {
  const { register } = useFormContext<Form>();
  const id = name.replace('.', '-');
  return (
    <div>
      <label htmlFor={id} className="text-sm sub">
        {label}
      </label>
      <select
        id={id}
        className="select h-12 w-full text-base"
        {...register(name, { onChange: (e: { target: { value: string } }) => onPicked?.(e.target.value) })}
      >
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

/** Yes or no. */
export function Tick<Form extends FieldValues>({ name, label }: { name: Path<Form>; label: string }) {
  const { register } = useFormContext<Form>();
  return (
    <label className="flex items-center gap-3 min-h-12 cursor-pointer self-end">
      <input type="checkbox" className="toggle" {...register(name)} />
      {label}
    </label>
  );
}

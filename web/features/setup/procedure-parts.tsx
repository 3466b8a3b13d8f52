import { useFieldArray, useFormContext } from 'react-hook-form';
import type { Step } from '@frustum/core';
import { PROCEDURE_STEPS, type ProcedureInput } from '@frustum/contract';

export type StepKey = (typeof PROCEDURE_STEPS)[number];

/** A labelled choice from a list. */
export function Choose({
  label,
  value,
  options,
  disabled,
  onPick,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  disabled?: boolean;
  onPick: (value: string) => void;
}) {
  return (
    <label className="block text-sm sub">
      {label}
      <select
        className="select h-12 w-full flex text-base text-base-content"
        value={value}
        disabled={disabled}
        onChange={(e) => onPick(e.target.value)}
      >
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

interface Part {
  readonly sheet: readonly Step[];
}

/** Usual steps of this sheet that may be said otherwise, each once. */
function usualSteps(sheet: readonly Step[]): readonly { readonly key: StepKey; readonly step: Step }[] {
  return PROCEDURE_STEPS.flatMap((key) => {
    const step = sheet.find((s) => s.key === key);
    return step ? [{ key, step }] : [];
  });
}

const SAID: Record<StepKey, string> = {
  hold: 'putting on hold',
  'take-out': 'taking out',
  place: 'going into a cup',
  settle: 'settling',
  repeat: 'settling once more',
  clean: 'cleaning',
  adjust: 'adjusting',
  'read-back': 'reading back',
  return: 'going back',
};

/** Titles and texts of the team's own for the usual steps. */
export function OwnWords({ sheet }: Part) {
  const { watch, setValue } = useFormContext<ProcedureInput>();
  const words = watch('words') as Record<string, { title?: string; text?: string }>;
  const put = (key: StepKey, part: { title?: string; text?: string }) => {
    const next = { ...words[key], ...part };
    const kept = Object.fromEntries(Object.entries(next).filter(([, v]) => v));
    const { [key]: _, ...others } = words;
    setValue('words', Object.keys(kept).length ? { ...others, [key]: kept } : others);
  };
  return (
    <details>
      <summary className="cursor-pointer py-2 font-semibold">Words of your own</summary>
      {usualSteps(sheet).map(({ key }) => (
        <div key={key} className="border-t border-base-300 py-2 grid sm:grid-cols-2 gap-3">
          <label className="text-sm sub">
            Title for {SAID[key]}
            <input
              className="input h-12 w-full block text-base text-base-content"
              maxLength={80}
              placeholder="as usual"
              value={words[key]?.title ?? ''}
              onChange={(e) => put(key, { title: e.target.value })}
            />
          </label>
          <label className="text-sm sub">
            What to do
            <textarea
              className="textarea w-full block text-base text-base-content"
              rows={2}
              maxLength={600}
              placeholder="as usual"
              value={words[key]?.text ?? ''}
              onChange={(e) => put(key, { text: e.target.value })}
            />
          </label>
        </div>
      ))}
    </details>
  );
}

/** Steps of the team's own between the usual ones. */
export function ExtraSteps({ sheet }: Part) {
  const { register, watch, setValue } = useFormContext<ProcedureInput>();
  const { fields, append, remove } = useFieldArray<ProcedureInput, 'extra'>({ name: 'extra' });
  const extra = watch('extra');
  return (
    <div>
      <span className="font-semibold">Steps in between</span>
      {fields.map((field, i) => (
        <div key={field.id} className="border-t border-base-300 py-2 grid sm:grid-cols-2 gap-3">
          <Choose
            label="After"
            value={extra[i]?.after ?? field.after}
            options={usualSteps(sheet).map(({ key }) => [key, SAID[key]] as const)}
            onPick={(after) => setValue(`extra.${i}.after`, after as StepKey)}
          />
          <label className="text-sm sub">
            Title
            <input
              className="input h-12 w-full block text-base text-base-content"
              maxLength={80}
              {...register(`extra.${i}.title`)}
            />
          </label>
          <label className="text-sm sub sm:col-span-2">
            What to do
            <input
              className="input h-12 w-full block text-base text-base-content"
              maxLength={600}
              {...register(`extra.${i}.text`)}
            />
          </label>
          <button type="button" className="btn btn-ghost h-12 justify-self-start" onClick={() => remove(i)}>
            Take out
          </button>
        </div>
      ))}
      {fields.length < 10 && (
        <button
          type="button"
          className="btn btn-ghost h-12 block"
          onClick={() => append({ after: 'take-out', title: '', text: '' })}
        >
          One more step
        </button>
      )}
    </div>
  );
}

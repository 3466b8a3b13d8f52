import { yupResolver } from '@hookform/resolvers/yup';
import { FormProvider, useForm, useFormContext, type FieldErrors, type Resolver } from 'react-hook-form';
import { FAMILIES, proceduresFor, serves, stepsOf, type ProcedureKind, type Standard, type Step } from '@frustum/core';
import { procedureSchema, type ProcedureInput, type ProcedureRow } from '@frustum/contract';
import { useSaveProcedureMutation, useShelfQuery } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';
import { Text } from '../../ui/text-field.tsx';
import { Choose, ExtraSteps, OwnWords, type StepKey } from './procedure-parts.tsx';
import { samplePlan } from './sample-plan.ts';
import { problemOf } from '../../format/problem.ts';

const SCHOOLS = [
  ['', 'as chosen at the start'],
  ['statistical', 'by forecast'],
  ['fixed-time', 'by the clock'],
  ['hand-count', 'by count'],
] as const;

const EMPTY = (family: string): ProcedureInput => ({
  version: 0,
  family,
  kind: proceduresFor(family)[0]!.kind,
  name: '',
  points: [],
  school: '',
  seconds: null,
  words: {},
  extra: [],
  retired: false,
});

/** One procedure to be made or changed, with the step sheet that comes of it beside it. */
export function ProcedureForm({ row, onDone }: { row: ProcedureRow | null; onDone: () => void }) {
  const [save, { isLoading, error }] = useSaveProcedureMutation();
  const { data: shelf } = useShelfQuery();
  const form = useForm<ProcedureInput>({ resolver, defaultValues: row ? inputOf(row) : EMPTY('ph') });
  const made = form.watch();
  const keep = (part: Partial<ProcedureInput> = {}) =>
    form.handleSubmit(async (body) => {
      const answer = await save({ procedureId: row?.procedureId ?? null, body: { ...body, ...part } });
      if (answer.data) onDone();
    });
  const sheet = stepsOf(samplePlan(made, shelf?.standards ?? []), []);
  const trouble = firstTrouble(form.formState.errors) ?? (error ? problemOf(error).detail : null);
  return (
    <FormProvider {...form}>
      <form
        className="grid lg:grid-cols-[1fr_280px] gap-x-8 mt-3"
        noValidate
        aria-label={row ? `Change ${row.name}` : 'New procedure'}
        onSubmit={(e) => void keep()(e)}
      >
        <div className="space-y-3">
          <Text<ProcedureInput> name="name" label="Name" />
          <KindFields isNew={row === null} />
          <PointFields standards={shelf?.standards ?? []} />
          <OwnWords sheet={sheet} />
          <ExtraSteps sheet={sheet} />
          {trouble && (
            <Notice kind="trouble" role="alert">
              {trouble}
            </Notice>
          )}
          <div className="flex gap-2.5 flex-wrap pt-2">
            <button className="btn btn-primary h-14 text-lg" disabled={isLoading}>
              {row ? `Keep as version ${row.version + 1}` : 'Keep it'}
            </button>
            <button type="button" className="btn btn-ghost h-14" onClick={onDone}>
              Leave it as it is
            </button>
            {row && (
              <button
                type="button"
                className="btn btn-outline border-base-300 h-14 ml-auto"
                disabled={isLoading}
                onClick={() => void keep({ retired: true })()}
              >
                Retire it
              </button>
            )}
          </div>
        </div>
        <Sheet sheet={sheet} />
      </form>
    </FormProvider>
  );
}

const resolver = yupResolver(procedureSchema) as unknown as Resolver<ProcedureInput>;

/** What is wrong first, wherever in the form it stands; null where all is well. */
function firstTrouble(errors: FieldErrors): string | null {
  for (const error of Object.values(errors)) {
    if (typeof error?.message === 'string') return error.message;
    const inside = error && typeof error === 'object' ? firstTrouble(error as FieldErrors) : null;
    if (inside) return inside;
  }
  return null;
}

/** What it is for, from which usual one it is made, and how a reading is captured. */
function KindFields({ isNew }: { isNew: boolean }) {
  const { watch, setValue, reset, getValues } = useFormContext<ProcedureInput>();
  const { family, kind, school, seconds } = watch();
  return (
    <div className="grid sm:grid-cols-2 gap-3">
      <Choose
        label="It is for"
        value={family}
        options={FAMILIES.map((f) => [f.id, f.name] as const)}
        disabled={!isNew}
        onPick={(id) => reset({ ...EMPTY(id), name: getValues('name') })}
      />
      <Choose
        label="Made from"
        value={kind}
        options={proceduresFor(family).map((p) => [p.kind, p.name] as const)}
        disabled={!isNew}
        onPick={(picked) => setValue('kind', picked as ProcedureKind)}
      />
      <Choose
        label="Captured"
        value={school}
        options={SCHOOLS}
        onPick={(picked) => {
          setValue('school', picked as ProcedureInput['school']);
          setValue('seconds', seconds ?? 120);
        }}
      />
      {(school === 'fixed-time' || school === 'hand-count') && (
        <label className="block text-sm sub">
          Seconds
          <input
            className="input h-12 w-28 block fig text-base text-base-content"
            inputMode="numeric"
            value={seconds ?? ''}
            onChange={(e) => setValue('seconds', Number(e.target.value.replace(/\D/g, '')) || null)}
          />
        </label>
      )}
    </div>
  );
}

function PointFields({ standards }: { standards: readonly Standard[] }) {
  const { watch, setValue } = useFormContext<ProcedureInput>();
  const { points, family } = watch();
  const offered = standards.filter((s) => serves(family, {}, s) && !points.includes(s.id));
  const nameOf = (id: string) => standards.find((s) => s.id === id)?.name ?? id;
  return (
    <div>
      <span className="text-sm sub">Standards in their order; none: as the loop has them</span>
      <div className="flex flex-wrap gap-2 items-center mt-1">
        {points.map((id) => (
          <span key={id} className="inline-flex items-center border border-base-300 rounded-lg pl-3">
            {nameOf(id)}
            <button
              type="button"
              className="btn btn-ghost h-10 px-3"
              aria-label={`Without ${nameOf(id)}`}
              onClick={() =>
                setValue(
                  'points',
                  points.filter((p) => p !== id),
                )
              }
            >
              ×
            </button>
          </span>
        ))}
        {points.length < 5 && offered.length > 0 && (
          <select
            className="select h-12 w-48"
            aria-label="Add a standard"
            value=""
            onChange={(e) => setValue('points', [...points, e.target.value])}
          >
            <option value="">add a standard</option>
            {offered.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
      </div>
    </div>
  );
}

const Sheet = ({ sheet }: { sheet: readonly Step[] }) => (
  <aside aria-label="Its step sheet" className="max-lg:mt-5">
    <h3 className="font-semibold">Its step sheet</h3>
    <ol className="mt-2 text-[15px] list-decimal pl-5 space-y-1">
      {sheet.map((s) => (
        <li key={s.id} className={s.key === 'own' ? 'font-[650]' : ''}>
          {s.title}
        </li>
      ))}
    </ol>
  </aside>
);

/** A version as it stands, to be changed. */
function inputOf({ procedureId: _, points, words, extra, ...rest }: ProcedureRow): ProcedureInput {
  return {
    ...rest,
    points: [...points],
    words: { ...words },
    extra: extra.map((e) => ({ ...e, after: e.after as StepKey })),
    retired: false,
  };
}

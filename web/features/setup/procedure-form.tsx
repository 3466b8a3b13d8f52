import { useState } from 'react';
import { FAMILIES, proceduresFor, serves, stepsOf, type ProcedureKind } from '@frustum/core';
import { procedureSchema, type ProcedureInput, type ProcedureRow } from '@frustum/contract';
import { useSaveProcedureMutation, useShelfQuery } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';
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
  const [made, setMade] = useState<ProcedureInput>(() => (row ? inputOf(row) : EMPTY('ph')));
  const [save, { isLoading, error }] = useSaveProcedureMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const { data: shelf } = useShelfQuery();
  const change = (part: Partial<ProcedureInput>) => setMade({ ...made, ...part });
  const keep = async (part: Partial<ProcedureInput> = {}) => {
    setTrouble(null);
    const order = { ...made, ...part };
    try {
      const body = await procedureSchema.validate(order);
      const answer = await save({ procedureId: row?.procedureId ?? null, body });
      if (answer.data) onDone();
    } catch (refused) {
      setTrouble(refused instanceof Error ? refused.message : String(refused));
    }
  };
  const standards = (shelf?.standards ?? []).filter((s) => serves(made.family, {}, s));
  const nameOf = (id: string) => shelf?.standards.find((s) => s.id === id)?.name ?? id;
  const sheet = stepsOf(samplePlan(made, shelf?.standards ?? []), []);
  return (
    <form
      className="grid lg:grid-cols-[1fr_280px] gap-x-8 mt-3"
      noValidate
      aria-label={row ? `Change ${row.name}` : 'New procedure'}
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <div className="space-y-3">
        <label className="block text-sm sub">
          Name
          <input
            className="input h-12 w-full block text-base text-base-content"
            maxLength={60}
            value={made.name}
            onChange={(e) => change({ name: e.target.value })}
          />
        </label>
        <div className="grid sm:grid-cols-2 gap-3">
          <Choose
            label="It is for"
            value={made.family}
            options={FAMILIES.map((f) => [f.id, f.name] as const)}
            disabled={row !== null}
            onPick={(family) => setMade({ ...EMPTY(family), name: made.name })}
          />
          <Choose
            label="Made from"
            value={made.kind}
            options={proceduresFor(made.family).map((p) => [p.kind, p.name] as const)}
            disabled={row !== null}
            onPick={(kind) => change({ kind: kind as ProcedureKind })}
          />
          <Choose
            label="Captured"
            value={made.school}
            options={SCHOOLS}
            onPick={(school) => change({ school: school as ProcedureInput['school'], seconds: made.seconds ?? 120 })}
          />
          {(made.school === 'fixed-time' || made.school === 'hand-count') && (
            <label className="block text-sm sub">
              Seconds
              <input
                className="input h-12 w-28 block fig text-base text-base-content"
                inputMode="numeric"
                value={made.seconds ?? ''}
                onChange={(e) => change({ seconds: Number(e.target.value.replace(/\D/g, '')) || null })}
              />
            </label>
          )}
        </div>
        <div>
          <span className="text-sm sub">Standards in their order; none: as the loop has them</span>
          <div className="flex flex-wrap gap-2 items-center mt-1">
            {made.points.map((id) => (
              <span key={id} className="inline-flex items-center border border-base-300 rounded-lg pl-3">
                {nameOf(id)}
                <button
                  type="button"
                  className="btn btn-ghost h-10 px-3"
                  aria-label={`Without ${nameOf(id)}`}
                  onClick={() => change({ points: made.points.filter((p) => p !== id) })}
                >
                  ×
                </button>
              </span>
            ))}
            {made.points.length < 5 && standards.length > 0 && (
              <select
                className="select h-12 w-48"
                aria-label="Add a standard"
                value=""
                onChange={(e) => change({ points: [...made.points, e.target.value] })}
              >
                <option value="">add a standard</option>
                {standards
                  .filter((s) => !made.points.includes(s.id))
                  .map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
              </select>
            )}
          </div>
        </div>
        <OwnWords made={made} sheet={sheet} onChange={change} />
        <ExtraSteps made={made} sheet={sheet} onChange={change} />
        {(trouble ?? error) && (
          <Notice kind="trouble" role="alert">
            {trouble ?? problemOf(error).detail}
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
              onClick={() => void keep({ retired: true })}
            >
              Retire it
            </button>
          )}
        </div>
      </div>
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
    </form>
  );
}

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

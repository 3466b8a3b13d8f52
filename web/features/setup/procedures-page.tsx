import { useState } from 'react';
import { FAMILIES, familyOf, proceduresFor } from '@frustum/core';
import type { ProcedureRow } from '@frustum/contract';
import { useProceduresQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { ProcedureForm } from './procedure-form.tsx';

/** A team's own procedures: the usual ones with another order, dwell, wording or extra steps, each change a version. */
export function Page() {
  const { data, error } = useProceduresQuery();
  const [open, setOpen] = useState<string | null>(null);
  if (!data) return <NotYet what="Reading the procedures" error={error} />;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Procedures of your own</h1>
      <p className="sub mt-1 max-w-prose">
        Made from a usual one: another order of standards, another dwell, words of your house, steps in between.
        Cautions always stay. A run keeps the version that it was made with.
      </p>
      <ul className="mt-4">
        {data.map((p) => (
          <li key={p.procedureId} className="border-t border-base-300 py-2.5">
            <div className="flex items-center gap-3 flex-wrap">
              <span className="min-w-0">
                <b className="font-[650]">{p.name}</b>
                <span className="sub block text-sm">{aboutIt(p)}</span>
              </span>
              <button
                type="button"
                className="btn btn-outline border-base-300 h-12 ml-auto"
                aria-expanded={open === p.procedureId}
                aria-label={`Change ${p.name}`}
                onClick={() => setOpen(open === p.procedureId ? null : p.procedureId)}
              >
                Change
              </button>
            </div>
            {open === p.procedureId && <ProcedureForm row={p} onDone={() => setOpen(null)} />}
          </li>
        ))}
      </ul>
      {data.length === 0 && (
        <p className="sub border-t border-base-300 py-4">None yet. The usual ones are always there.</p>
      )}
      {open === 'new' ? (
        <section aria-label="New procedure" className="border-t border-base-300 pt-4">
          <h2>New procedure</h2>
          <ProcedureForm row={null} onDone={() => setOpen(null)} />
        </section>
      ) : (
        <button type="button" className="btn btn-primary h-14 text-lg mt-4" onClick={() => setOpen('new')}>
          Make one
        </button>
      )}
    </main>
  );
}

function aboutIt(p: ProcedureRow): string {
  const usual = proceduresFor(p.family).find((u) => u.kind === p.kind)?.name ?? p.kind;
  const family = FAMILIES.some((f) => f.id === p.family) ? familyOf(p.family).name : p.family;
  const steps = p.extra.length ? `, ${p.extra.length} ${p.extra.length === 1 ? 'step' : 'steps'} more` : '';
  return `${family}, from “${usual}”, version ${p.version}${steps}`;
}

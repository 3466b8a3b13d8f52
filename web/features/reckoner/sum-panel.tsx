import { useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import {
  chosenOf,
  curveOf,
  EMPTY,
  inWords,
  solve,
  wayAfter,
  type Solved,
  type Sum,
  type SumChoice,
  type SumField,
  type SumInput,
} from '@frustum/core';
import SumCurveChart from '../../charts/sum-curve.tsx';
import { kept, typed } from '../../app/reckoner-memory.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Behind } from './behind.tsx';
import { HandOver } from './hand-over.tsx';
import { Field } from './sum-field.tsx';
import { TheAnswer } from './the-answer.tsx';

/** An entry of the last sums is written once typing pauses, ms. */
const PAUSE_MS = 700;

const isTouched = ({ typed: figures, chosen }: SumInput) =>
  Object.keys(figures).length > 0 || Object.keys(chosen).length > 0;

/** One sum: fields that answer while one types, in whichever direction one types. */
export function SumPanel({ sum }: { sum: Sum }) {
  const dispatch = useAppDispatch();
  const input = useAppSelector((s) => s.reckoner.inputs[sum.id]) ?? EMPTY;
  const solved = solve(sum, input);
  const form = useRef<HTMLDivElement>(null);
  const location = useLocation();
  const navigate = useNavigate();
  const typing = (location.state as { typing?: boolean } | null)?.typing === true;
  useEffect(() => {
    if (typing) form.current?.querySelector<HTMLElement>('input:not([readonly])')?.focus();
  }, [typing, location.key]);
  useKept(sum, input, solved);

  const put = (next: Partial<SumInput>) => dispatch(typed({ sumId: sum.id, input: { ...input, ...next } }));
  const type = (field: SumField, text: string) =>
    put({ typed: { ...input.typed, [field.id]: text }, way: wayAfter(sum, input.way, field.id) });
  const turns = (field: SumField) => sum.ways.some((w) => !w.finds.includes(field.id));
  const curve = curveOf(sum, solved, input.chosen);
  const picks = chosenOf(sum, input.chosen);
  return (
    <section
      aria-label={sum.title}
      className="px-4 lg:px-7 py-4 lg:py-5"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        const finder = document.getElementById('look-for');
        if (finder?.offsetParent) finder.focus();
        else void navigate('/reckoner');
      }}
    >
      <Link to="/reckoner" className="lg:hidden underline inline-block py-2 -mt-2">
        All sums
      </Link>
      <SumHead sum={sum} touched={isTouched(input)} put={put} />
      <TheAnswer sum={sum} solved={solved} />
      <div ref={form} className="grid sm:grid-cols-2 gap-x-5 gap-y-3 mt-4">
        {sum.choices.map((choice) => (
          <ChoiceField key={choice.id} choice={choice} sum={sum} picks={picks} put={put} input={input} />
        ))}
        {sum.fields.map((field) => (
          <Field
            key={field.id}
            field={field}
            text={input.typed[field.id]}
            solved={solved}
            turns={turns(field)}
            onType={(text) => type(field, text)}
          />
        ))}
      </div>
      <HandOver sum={sum} solved={solved} />
      {curve && (
        <div className="mt-5">
          <SumCurveChart curve={curve} />
        </div>
      )}
      <Behind sum={sum} solved={solved} input={input} />
    </section>
  );
}

function SumHead({ sum, touched, put }: { sum: Sum; touched: boolean; put: (next: Partial<SumInput>) => void }) {
  return (
    <div className="flex items-baseline gap-3">
      <h2 className="text-[22px] leading-tight">{sum.title}</h2>
      {touched && (
        <button
          type="button"
          className="btn btn-ghost btn-sm max-lg:h-12 font-normal text-[15px] ml-auto shrink-0 -mr-3"
          onClick={() => put(EMPTY)}
        >
          Start over
        </button>
      )}
    </div>
  );
}

function ChoiceField({
  choice,
  sum,
  picks,
  put,
  input,
}: {
  choice: SumChoice;
  sum: Sum;
  picks: Readonly<Record<string, string>>;
  put: (next: Partial<SumInput>) => void;
  input: SumInput;
}) {
  return (
    <div className={sum.choices.length === 1 ? 'sm:col-span-2' : ''}>
      <label className="sub text-sm block mb-1" htmlFor={`pick-${choice.id}`}>
        {choice.name}
      </label>
      <select
        id={`pick-${choice.id}`}
        className="select w-full h-12 text-[17px]"
        value={picks[choice.id]}
        onChange={(e) => put({ chosen: { ...input.chosen, [choice.id]: e.target.value } })}
      >
        {choice.options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.name}
          </option>
        ))}
      </select>
    </div>
  );
}

/** Keeps a sum that somebody typed into, once typing pauses: one entry for one opening. */
function useKept(sum: Sum, input: SumInput, solved: Solved): void {
  const dispatch = useAppDispatch();
  const [visit] = useState(() => Date.now());
  const line = solved.answer && Object.keys(input.typed).length > 0 ? lineOf(sum, solved) : null;
  const unwritten = useRef<(() => void) | null>(null);
  useEffect(() => {
    if (line === null) return;
    const write = () => {
      unwritten.current = null;
      dispatch(kept({ visit, sumId: sum.id, input, line }));
    };
    unwritten.current = write;
    const timer = setTimeout(write, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [dispatch, visit, sum.id, input, line]);
  // A user who leaves before the pause loses nothing.
  useEffect(() => () => unwritten.current?.(), []);
}

/** "51.2 mS/cm, 24.0 °C → 34.374 PSS-78": the typed figures first. */
function lineOf(sum: Sum, { given, way, answer }: Solved): string {
  const left = sum.fields.filter((f) => given[f.id] !== undefined).slice(0, 3);
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  return `${left.map((f) => inWords({ ...f, decimals: undefined }, given[f.id]!)).join(', ')} → ${inWords(asked, answer!.found[asked.id]!)}`;
}

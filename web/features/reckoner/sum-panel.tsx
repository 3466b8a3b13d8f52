import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import {
  chosenOf,
  curveOf,
  EMPTY,
  inWords,
  nudges,
  shown,
  solve,
  wayAfter,
  type Solved,
  type Sum,
  type SumField,
  type SumInput,
} from '@frustum/core';
import { kept, typed } from '../../app/reckoner-memory.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { signed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { HandOver } from './hand-over.tsx';

const SumCurveChart = lazy(() => import('../../charts/sum-curve.tsx'));

/** An entry of the last sums is written once typing pauses, ms. */
const PAUSE_MS = 700;

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
  const touched = Object.keys(input.typed).length > 0 || Object.keys(input.chosen).length > 0;
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
      <TheAnswer sum={sum} solved={solved} />
      <div ref={form} className="grid sm:grid-cols-2 gap-x-5 gap-y-3 mt-4">
        {sum.choices.map((choice) => (
          <div key={choice.id} className={sum.choices.length === 1 ? 'sm:col-span-2' : ''}>
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
          <Suspense fallback={<div className="h-48" />}>
            <SumCurveChart curve={curve} />
          </Suspense>
        </div>
      )}
      <Behind sum={sum} solved={solved} input={input} />
    </section>
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
  // Whoever is quick and leaves before the pause loses nothing.
  useEffect(() => () => unwritten.current?.(), []);
}

/** "51.2 mS/cm, 24.0 °C → 34.374 PSS-78": the typed figures first. */
function lineOf(sum: Sum, { given, way, answer }: Solved): string {
  const left = sum.fields.filter((f) => given[f.id] !== undefined).slice(0, 3);
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  return `${left.map((f) => inWords({ ...f, decimals: undefined }, given[f.id]!)).join(', ')} → ${inWords(asked, answer!.found[asked.id]!)}`;
}

function TheAnswer({ sum, solved: { way, answer, refusal, troubles } }: { sum: Sum; solved: Solved }) {
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  const stuck = sum.fields.find((f) => troubles[f.id]);
  return (
    <output className="block mt-2 min-h-[104px]" aria-live="polite">
      {answer ? (
        <>
          <span className="sub">{asked.name}</span>
          <span className="flex items-baseline gap-3 flex-wrap leading-none mt-1">
            <span
              className="fig font-[560] text-[44px] lg:text-[56px] leading-none tracking-[-0.03em]"
              data-testid="answer"
            >
              {shown(answer.found[asked.id]!, asked.decimals)}
            </span>
            {asked.unit && <span className="text-[20px] sub">{asked.unit}</span>}
            <span className="sub text-[15px]">
              {answer.plusMinus === null ? (
                `No ±: ${answer.plusMinusBecause}.`
              ) : (
                <>
                  <span className="fig">±{roundedUp(answer.plusMinus)}</span> {answer.plusMinusBecause}
                </>
              )}
            </span>
          </span>
          <span className="block fig text-[15px] mt-2.5 break-words" data-testid="formula">
            {answer.formula}
          </span>
        </>
      ) : (
        <Notice kind="trouble">{refusal ?? (stuck ? `${stuck.name}: ${troubles[stuck.id]}` : '')}</Notice>
      )}
    </output>
  );
}

/** A ± with two significant digits at most: more would claim too much. */
function roundedUp(plusMinus: number): string {
  return shown(Number(plusMinus.toPrecision(plusMinus >= 100 ? 3 : 2)));
}

function Field({
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

/** What stands behind the answer: further figures, what a little more would do, formula, source, validity. */
function Behind({ sum, solved, input }: { sum: Sum; solved: Solved; input: SumInput }) {
  const { answer, way } = solved;
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  const moves = nudges(sum, solved, input.chosen);
  return (
    <div className="mt-5 text-[15px]">
      {answer && (answer.more.length > 0 || moves.length > 0) && (
        <table className="w-full">
          <tbody>
            {answer.more.map((m) => (
              <tr key={m.name} className="border-t border-base-300">
                <td className="py-1.5 pr-4">{m.name}</td>
                <td className="fig text-right">
                  {shown(m.value, m.decimals)} {m.unit}
                </td>
              </tr>
            ))}
            {moves.map((m) => (
              <tr key={m.field.id} className="border-t border-base-300">
                <td className="py-1.5 pr-4 sub">
                  {m.field.name}, {inWords({ ...m.field, decimals: undefined }, m.by)} more
                </td>
                <td className="fig text-right sub">
                  {change(m.change, asked)} {asked.unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <dl className="mt-4 grid sm:grid-cols-[88px_1fr] gap-x-4 gap-y-1.5 border-t border-base-300 pt-3">
        <dt className="sub">Formula</dt>
        <dd className="fig break-words">{sum.formula}</dd>
        <dt className="sub">Source</dt>
        <dd>{sum.source}.</dd>
        <dt className="sub">Holds for</dt>
        <dd>{sum.validity}.</dd>
        {answer?.note && (
          <>
            <dt className="sub">Mind</dt>
            <dd>{answer.note}</dd>
          </>
        )}
      </dl>
    </div>
  );
}

/** One digit finer than the answer itself, so that a small change is seen. */
function change(by: number, asked: SumField): string {
  if (asked.decimals !== undefined) return signed(by, asked.decimals + 1);
  return `${by > 0 ? '+' : ''}${shown(Number(by.toPrecision(3)))}`;
}

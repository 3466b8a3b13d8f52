import { useEffect, useState, type FormEvent } from 'react';
import {
  cupIn,
  isCell,
  typedCapture,
  oddOf,
  scalesOf,
  type Odd,
  type RunState,
  type Standard,
  type Step,
  type Warning,
} from '@frustum/core';
import { taken } from '../../../app/handed.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { degreesHere, inFamily, upper, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { useShelfQuery } from '../../../app/api.ts';
import type { CaptureBody } from './capture-body.ts';
import { Doubted } from '../../../ui/doubted.tsx';
import { EntryField } from '../enter/entry-field.tsx';
import { HandCount } from './hand-count.tsx';
import { standardsOn } from './warning.ts';
import { TraceDrop } from './trace-drop.tsx';

/** Units in which a reading can be typed: the signal's, and every way of writing the value. */
function unitsFor({ unit, model, signalUnit }: InFamily): readonly string[] {
  return [...new Set([unit, ...scalesOf(model).map((s) => s.id), signalUnit])];
}

interface HandEntryProps {
  state: RunState;
  step: Step;
  standard: Standard;
  runId: string;
  onCapture: (capture: CaptureBody) => void;
  /** a figure was doubted, and stands all the same */
  onDoubt: (odd: Odd) => void;
}

/** What is typed, in which units, and what is wrong or doubtful about it. */
function useTyped({ state, step, standard, runId, onCapture }: HandEntryProps) {
  const { plan } = state;
  const figures = inFamily(plan);
  const input = plan.points[step.pointIndex!]?.role === 'input';
  // A figure that another view found waits here to be looked at; it is taken once.
  const handed = useAppSelector((s) => s.handed[runId]);
  const dispatch = useAppDispatch();
  const [reading, setReading] = useState(handed?.quantity === 'reading' ? handed.text : '');
  const [temperature, setTemperature] = useState(() =>
    handed?.quantity === 'degrees' ? handed.text : lastTemperature(state),
  );
  // A salinity cannot be typed in air: there the meter shows a conductivity.
  const noValue = standard.nominal < figures.model.range.low && isCell(figures.model);
  const units = input || noValue ? [figures.signalUnit] : unitsFor(figures);
  const [unit, setUnit] = useState(handed && units.includes(handed.unit) ? handed.unit : units[0]!);
  useEffect(() => {
    if (handed) dispatch(taken(runId));
  }, [handed, dispatch, runId]);
  const [degrees, setDegrees] = useState(degreesHere);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [doubt, setDoubt] = useState<Warning | null>(null);
  const { data: shelf } = useShelfQuery();
  const standards = standardsOn(shelf, plan);
  /** What is typed anew is doubted anew. */
  const changed = (set: (text: string) => void) => (text: string) => {
    setDoubt(null);
    set(text);
  };
  const submit = (stands = false) => {
    setDoubt(null);
    const entry = { reading, unit, temperature, degrees };
    const made = typedCapture(state, step, standard, entry, standards, stands);
    setTrouble('trouble' in made ? upper(made.trouble) : null);
    if ('doubt' in made) setDoubt(made.doubt);
    if (!('capture' in made)) return;
    onCapture(made.capture);
    setReading('');
  };
  return {
    family: figures.family,
    reading: { unit, units, onUnit: changed(setUnit), value: reading, onChange: changed(setReading) },
    temperature: {
      unit: degrees,
      units: ['°C', '°F'],
      onUnit: changed((u: string) => setDegrees(u as '°C' | '°F')),
      value: temperature,
      onChange: changed(setTemperature),
    },
    standards,
    trouble,
    doubt,
    look: () => setDoubt(null),
    submit,
  };
}

/** A reading that comes by eye or by file: typed with a count of its own, or a recorded trace dropped here. */
export function HandEntry(props: HandEntryProps) {
  const { state, step, standard, onCapture, onDoubt } = props;
  const { plan } = state;
  const { family, reading, temperature, standards, trouble, doubt, look, submit } = useTyped(props);
  return (
    <div className="mt-4">
      <HandCount seconds={plan.school.kind === 'hand-count' ? plan.school.seconds : undefined} />
      <form
        className="grid sm:grid-cols-2 gap-3 mt-4"
        noValidate
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          submit();
        }}
      >
        <EntryField label="Reading" {...reading} />
        {!family.thermometer && <EntryField label="Temperature" {...temperature} />}
        {trouble && (
          <div className="sm:col-span-2">
            <Notice kind="trouble" role="alert">
              {trouble}
            </Notice>
          </div>
        )}
        {doubt ? (
          <Doubted
            warning={doubt}
            onAgain={() => {
              look();
              document.getElementById('entry-reading')?.focus();
            }}
            onStands={() => {
              onDoubt(oddOf(doubt)!);
              submit(true);
            }}
          />
        ) : (
          <button className="btn btn-primary h-16 text-xl sm:col-span-2">Capture typed value</button>
        )}
      </form>
      {family.typed.traces && (
        <TraceDrop
          state={state}
          cup={cupIn(state, step, standard, standards)}
          inForce={step.purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce}
          onCapture={onCapture}
          onDoubt={onDoubt}
        />
      )}
    </div>
  );
}

function lastTemperature(state: RunState): string {
  const last = state.captures.at(-1);
  return last ? fixed(last.temperatureC, 1).replace('−', '-') : '';
}

import { useEffect, useState, type FormEvent } from 'react';
import {
  convertTo,
  cupIn,
  expectedIn,
  figure,
  isUnit,
  kindOf,
  Refusal,
  requireWithin,
  signalOf,
  slipIn,
  stepIn,
  takenByMistake,
  temperatureSlip,
  typedFacts,
  unitsOf,
  type RunState,
  type Standard,
  type Step,
  type Warning,
} from '@frustum/core';
import { taken } from '../../../app/handed.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { inFamily, upper, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { useShelfQuery } from '../../../app/api.ts';
import type { CaptureBody } from './capture-body.ts';
import { Doubted } from '../enter/doubted.tsx';
import { EntryField } from '../enter/entry-field.tsx';
import { HandCount } from './hand-count.tsx';
import { standardsOn } from './warning.ts';
import { TraceDrop } from './trace-drop.tsx';

/** Half a step that counts, as a standard deviation, and as much again for reading it off. */
const TYPED_STEPS = 0.6;

/** Units in which a reading can be typed: the signal's, and every way of writing the value. */
function unitsFor({ model, signalUnit }: InFamily): readonly string[] {
  return [...new Set<string>([model.valueUnit, ...unitsOf(kindOf(model.valueUnit)), signalUnit])];
}

/** A reading that comes by eye or by file: typed with a count of its own, or a recorded trace dropped here. */
export function HandEntry({
  state,
  step,
  standard,
  runId,
  onCapture,
  onDoubt,
}: {
  state: RunState;
  step: Step;
  standard: Standard;
  runId: string;
  onCapture: (capture: CaptureBody) => void;
  /** a figure was doubted, and stands all the same */
  onDoubt: (record: string) => void;
}) {
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
  // In air there is no salinity to be typed: the meter shows what the cell conducts.
  const { low } = figures.model.range;
  const noValue = standard.nominal < low && figures.signalUnit.endsWith('S');
  const units = input || noValue ? [figures.signalUnit] : unitsFor(figures);
  const [unit, setUnit] = useState(handed && units.includes(handed.unit) ? handed.unit : units[0]!);
  useEffect(() => {
    if (handed) dispatch(taken(runId));
  }, [handed, dispatch, runId]);
  const [degrees, setDegrees] = useState<'°C' | '°F'>('°C');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [doubt, setDoubt] = useState<Warning | null>(null);
  const { data: shelf } = useShelfQuery();
  const inForce = step.purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce;
  const ownThermometer = figures.family.thermometer;

  /** What is typed anew is doubted anew. */
  const changed = (set: (text: string) => void) => (text: string) => {
    setDoubt(null);
    set(text);
  };
  const readingSlip = (value: number, temperatureC: number) => {
    const typed = { text: reading.trim(), value, unit, temperatureC };
    const facts = typedFacts(plan, inForce, standard, typed, takenByMistake(plan, standardsOn(shelf, plan)));
    return facts && slipIn(facts).warning;
  };

  const submit = (stands = false) => {
    setDoubt(null);
    const value = figure(reading.trim());
    const typed = ownThermometer ? value : figure(temperature.trim());
    if (value === null) return setTrouble(`The reading “${reading}” is not a figure. Type it like 7.02.`);
    if (typed === null) return setTrouble(`The temperature “${temperature}” is not a figure. Type it like 24.5.`);
    const temperatureC = convertTo(typed, ownThermometer && isUnit(unit) ? unit : degrees, '°C')!;
    try {
      requireWithin(temperatureC, -5, 110, 'temperature', '°C', 'Check it, and whether it is °C or °F.');
      // A temperature in another unit may lie beyond the table: first say what it looks like.
      const asCelsius = { text: temperature.trim(), celsius: typed, about: plan.workingC };
      const inCelsius = !ownThermometer && degrees === '°C';
      const hot = !stands && inCelsius ? temperatureSlip(asCelsius).warning : null;
      if (hot) {
        setTrouble(null);
        return setDoubt(hot);
      }
      // So may a figure that lost its comma lie beyond the scale.
      const slip = stands || input ? null : readingSlip(value, temperatureC);
      if (slip) {
        setTrouble(null);
        return setDoubt(slip);
      }
      if (!input) expectedIn(figures.model, { standard, temperatureC });
      const signal = typedSignal(figures, value, unit, temperatureC, inForce);
      onCapture({
        method: 'typed',
        signal,
        signalUncertainty: TYPED_STEPS * stepIn(plan, standard, standard.nominalAtC),
        temperatureC,
        settledSeconds: null,
        t90: null,
        trace: [],
      });
      setReading('');
      setTrouble(null);
    } catch (error) {
      setTrouble(error instanceof Refusal ? upper(error.message) : String(error));
    }
  };

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
        <EntryField
          label="Reading"
          unit={unit}
          units={units}
          onUnit={changed(setUnit)}
          value={reading}
          onChange={changed(setReading)}
        />
        {!ownThermometer && (
          <EntryField
            label="Temperature"
            unit={degrees}
            units={['°C', '°F']}
            onUnit={changed((u: string) => setDegrees(u as '°C' | '°F'))}
            value={temperature}
            onChange={changed(setTemperature)}
          />
        )}
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
              setDoubt(null);
              document.getElementById('entry-reading')?.focus();
            }}
            onStands={() => {
              onDoubt(doubt.record);
              submit(true);
            }}
          />
        ) : (
          <button className="btn btn-primary h-16 text-xl sm:col-span-2">Capture typed value</button>
        )}
      </form>
      {figures.family.typed.traces && (
        <TraceDrop
          state={state}
          cup={cupIn(state, step, standard, standardsOn(shelf, plan))}
          inForce={inForce}
          onCapture={onCapture}
          onDoubt={onDoubt}
        />
      )}
    </div>
  );
}

/**
 * The signal behind a typed reading.
 *
 * @throws Refusal with value, bound and way out for what no sensor of this family shows
 */
export function typedSignal(
  { model, signalUnit }: InFamily,
  value: number,
  unit: string,
  temperatureC: number,
  inForce: RunState['plan']['inForce'],
): number {
  if (unit === signalUnit) {
    // What the ends of the range would give, with as much again: beyond it is another unit or a slip.
    const ends = [model.range.low, model.range.high].flatMap((end) => {
      try {
        return [signalOf(model, end, { temperatureC }, { zero: 0, sensitivity: 1 })];
      } catch {
        return [];
      }
    });
    const far = ends.length ? Math.max(...ends.map(Math.abs)) * 1.7 + 50 : Infinity;
    return requireWithin(value, -far, far, 'reading', signalUnit, 'Check the figure and its unit.');
  }
  const own = isUnit(unit) ? convertTo(value, unit, model.valueUnit) : null;
  if (own === null)
    throw new Refusal('channel-of-another-kind', `A reading in ${unit} is none of this loop.`, { unit });
  return signalOf(model, own, { temperatureC }, inForce);
}

function lastTemperature(state: RunState): string {
  const last = state.captures.at(-1);
  return last ? fixed(last.temperatureC, 1).replace('−', '-') : '';
}

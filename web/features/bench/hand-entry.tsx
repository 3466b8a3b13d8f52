import { useEffect, useState, type DragEvent } from 'react';
import {
  celsius,
  figure,
  millivolts,
  Refusal,
  settleIn,
  stepIn,
  shownPh,
  thinned,
  valueAt,
  type Capture,
  type RunState,
  type Step,
} from '@frustum/core';
import { decodeTrace, MOST_BYTES, type TraceFault } from '@frustum/formats';
import { taken } from '../../app/handed.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';

/** Seconds that the digits must stand still. */
const COUNT_SECONDS = 15;
const KEPT_SAMPLES = 200;
/** Half a display step of 0.01 pH, as a standard deviation, and as much again for reading it off, mV. */
const TYPED_UNCERTAINTY_MV = 0.35;

type CaptureBody = Omit<Capture, 'pointIndex' | 'purpose'>;

/** A reading that comes by eye or by file: typed with a count of its own, or a recorded trace dropped here. */
export function HandEntry({
  state,
  step,
  runId,
  onCapture,
}: {
  state: RunState;
  step: Step;
  runId: string;
  onCapture: (capture: CaptureBody) => void;
}) {
  const { plan } = state;
  // A figure that another view found waits here to be looked at; it is taken once.
  const handed = useAppSelector((s) => s.handed[runId]);
  const dispatch = useAppDispatch();
  const [reading, setReading] = useState(handed?.quantity === 'reading' ? handed.text : '');
  const [temperature, setTemperature] = useState(() =>
    handed?.quantity === 'temperature' ? handed.text : lastTemperature(state),
  );
  const [unit, setUnit] = useState<'pH' | 'mV'>(handed?.unit === 'mV' ? 'mV' : 'pH');
  useEffect(() => {
    if (handed) dispatch(taken(runId));
  }, [handed, dispatch, runId]);
  const [degrees, setDegrees] = useState<'C' | 'F'>('C');
  const [trouble, setTrouble] = useState<string | null>(null);
  const inForce = step.purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce;

  const submit = () => {
    const value = figure(reading.trim());
    const typed = figure(temperature.trim());
    if (value === null) return setTrouble(`The reading “${reading}” is not a figure. Type it like 7.02.`);
    if (typed === null) return setTrouble(`The temperature “${temperature}” is not a figure. Type it like 24.5.`);
    const temperatureC = degrees === 'F' ? celsius(typed) : typed;
    if (unit === 'pH' && (value < 0 || value > 14))
      return setTrouble(`pH ${value} is outside 0 to 14. Check the figure, or switch to mV.`);
    if (unit === 'mV' && Math.abs(value) > 700)
      return setTrouble(`${value} mV is outside ±700 mV. Check the figure and its unit.`);
    try {
      valueAt(plan.points[step.pointIndex!]!.standard, temperatureC);
      const signal = unit === 'mV' ? value : millivolts(value, temperatureC, inForce);
      onCapture({
        method: 'typed',
        signal,
        signalUncertainty: TYPED_UNCERTAINTY_MV,
        temperatureC,
        settledSeconds: null,
        t90: null,
        trace: [],
      });
      setReading('');
      setTrouble(null);
    } catch (error) {
      setTrouble(error instanceof Refusal ? error.message : String(error));
    }
  };

  return (
    <div className="mt-4">
      <HandCount />
      <form
        className="grid grid-cols-2 gap-3 mt-4"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          submit();
        }}
      >
        <Field
          label="Reading"
          unit={unit}
          units={['pH', 'mV']}
          onUnit={(u) => setUnit(u as 'pH' | 'mV')}
          value={reading}
          onChange={setReading}
        />
        <Field
          label="Temperature"
          unit={`°${degrees}`}
          units={['°C', '°F']}
          onUnit={(u) => setDegrees(u.slice(1) as 'C' | 'F')}
          value={temperature}
          onChange={setTemperature}
        />
        {trouble && (
          <div className="col-span-2">
            <Notice kind="trouble" role="alert">
              {trouble}
            </Notice>
          </div>
        )}
        <button className="btn btn-primary h-16 text-xl col-span-2">Capture typed value</button>
      </form>
      <TraceDrop state={state} step={step} inForce={inForce} onCapture={onCapture} />
    </div>
  );
}

function lastTemperature(state: RunState): string {
  const last = state.captures.at(-1);
  return last ? fixed(last.temperatureC, 1).replace('−', '-') : '';
}

function Field(props: {
  label: string;
  unit: string;
  units: readonly string[];
  onUnit: (unit: string) => void;
  value: string;
  onChange: (value: string) => void;
}) {
  const id = `entry-${props.label.toLowerCase()}`;
  return (
    <div>
      <label htmlFor={id} className="sub text-sm block mb-1">
        {props.label}
      </label>
      <div className="join w-full">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          className="input join-item h-14 text-2xl fig w-full min-w-0"
          value={props.value}
          onChange={(e) => props.onChange(e.target.value)}
        />
        <select
          aria-label={`${props.label}, unit`}
          className="select join-item h-14 w-[84px] shrink-0"
          value={props.unit}
          onChange={(e) => props.onUnit(e.target.value)}
        >
          {props.units.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
      </div>
    </div>
  );
}

/** Counts for the operator; a digit that moves starts it over. */
function HandCount() {
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (startedAt === null) return;
    const timer = setInterval(() => setNow(performance.now()), 200);
    return () => clearInterval(timer);
  }, [startedAt]);
  const gone = startedAt === null ? 0 : Math.max(0, (now - startedAt) / 1000);
  const still = startedAt !== null && gone >= COUNT_SECONDS;
  const begin = () => {
    const at = performance.now();
    setStartedAt(at);
    setNow(at);
  };
  return (
    <div className="flex items-center gap-3 flex-wrap" role="group" aria-label="Hand count">
      <button type="button" className="btn h-14 text-base" onClick={begin}>
        {startedAt === null ? `Count ${COUNT_SECONDS} s` : 'A digit moved, start over'}
      </button>
      <span className="text-lg" role="status">
        {startedAt === null ? (
          <span className="sub text-[15px]">Count when the digits stop. Any that moves starts it over.</span>
        ) : still ? (
          <b>Still for {COUNT_SECONDS} s. Type it now.</b>
        ) : (
          <span className="fig text-3xl">{Math.floor(gone)}</span>
        )}
      </span>
    </div>
  );
}

function TraceDrop({
  state,
  step,
  inForce,
  onCapture,
}: {
  state: RunState;
  step: Step;
  inForce: RunState['plan']['inForce'];
  onCapture: (capture: CaptureBody) => void;
}) {
  const [faults, setFaults] = useState<readonly TraceFault[]>([]);
  const [ready, setReady] = useState<{ name: string; capture: CaptureBody; words: string } | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    setOver(false);
    setReady(null);
    if (!file) return;
    if (file.size > MOST_BYTES)
      return setFaults([
        {
          line: 1,
          column: 0,
          message: `The file has ${(file.size / 1e6).toFixed(1)} MB; a trace has at most ${MOST_BYTES / 1e6} MB. Cut it to one capture.`,
        },
      ]);
    const result = decodeTrace(await file.text(), inForce);
    if (!result.ok) return setFaults(result.faults);
    setFaults([]);
    const { standard } = state.plan.points[step.pointIndex!]!;
    const counts = stepIn(state.plan, standard, standard.nominalAtC);
    const s = settleIn(counts, result.samples, state.plan.school, state.plan.resolution);
    const shown = shownPh(s.level, s.temperatureC, inForce);
    const steady = s.state === 'ready';
    setReady({
      name: file.name,
      words: `${result.samples.length} samples of ${result.signal}: ends at ${fixed(shown, 2)} pH, ${fixed(s.temperatureC, 1)} °C. ${steady ? 'Steady.' : `Not steady yet: ${fixed(s.bound / 59.2, 3)} pH may still be to come; that goes into its ±.`}`,
      capture: {
        method: 'trace',
        signal: s.level,
        signalUncertainty: s.levelUncertainty,
        temperatureC: s.temperatureC,
        settledSeconds: s.seconds,
        t90: s.t90,
        trace: thinned(result.samples, KEPT_SAMPLES),
      },
    });
  };
  return (
    <div
      className={`mt-4 border border-dashed rounded-lg p-3 ${over ? 'border-primary' : 'border-base-300'}`}
      onDragOver={(e: DragEvent) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e: DragEvent) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <label className="flex items-center gap-3 flex-wrap text-[15px]">
        <span className="sub">
          Or drop a recorded trace of {state.plan.points[step.pointIndex!]!.standard.name} (CSV: time, mV or pH, °C)
        </span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          className="file-input file-input-sm"
          aria-label="Recorded trace"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </label>
      {faults.length > 0 && (
        <div className="mt-2" role="alert">
          <p>Nothing was taken from this file:</p>
          <ul className="text-[15px]">
            {faults.map((f, i) => (
              <li key={i}>
                <span className="fig">{f.column ? `line ${f.line}, column ${f.column}` : `line ${f.line}`}</span>:{' '}
                {f.message}
              </li>
            ))}
          </ul>
        </div>
      )}
      {ready && (
        <div className="mt-2">
          <p>{ready.words}</p>
          <button type="button" className="btn btn-primary h-14 mt-2" onClick={() => onCapture(ready.capture)}>
            Capture from {ready.name}
          </button>
        </div>
      )}
    </div>
  );
}

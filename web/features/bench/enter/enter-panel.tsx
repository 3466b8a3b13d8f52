import { useState } from 'react';
import {
  convertTo,
  figure,
  isCell,
  oddOf,
  PPM_SCALES,
  Refusal,
  slipIn,
  standardOf,
  scaleOf,
  scalesOf,
  type Entry,
  type KeptCapture,
  type RunPlan,
  type Step,
  type Unit,
  type Warning,
} from '@frustum/core';
import { degreesHere, inFamily, unlessRefused, upper, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { Doubted } from '../../../ui/doubted.tsx';
import { EntryField } from './entry-field.tsx';
import { Photo } from '../photo.tsx';
import { momentOn, type LiveTrace } from '../use-live-trace.ts';
import type { BenchRun } from '../use-run.ts';

/** A value that comes from elsewhere: a sample's, or that of two thermometers. Nothing typed is lost on a refusal. */
export function EnterPanel({ run, step, trace }: { run: BenchRun; step: Step; trace: LiveTrace }) {
  const { plan } = run.state;
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = (make: () => Entry) => {
    try {
      const entry = make();
      standardOf(plan, entry);
      setTrouble(null);
      run.send({ type: 'entered', stepId: step.id, entry, ...momentOn(trace) });
    } catch (error) {
      setTrouble(error instanceof Refusal ? upper(error.message) : String(error));
    }
  };
  return (
    <div>
      <h2 className="text-[27px] leading-tight max-lg:sr-only">{step.title}</h2>
      <p className="mt-2 text-lg max-w-prose max-lg:hidden">{step.text}</p>
      {plan.procedure?.kind === 'thermometers' ? (
        <Thermometers trouble={trouble} onEntry={take} />
      ) : (
        <Sample run={run} step={step} trouble={trouble} onEntry={take} />
      )}
      <Photo run={run} step={step} />
    </div>
  );
}

interface EntryForm {
  readonly trouble: string | null;
  readonly onEntry: (make: () => Entry) => void;
}

/** @throws Refusal `not-a-number` with what was typed and an example */
function typed(text: string, what: string, example: string): number {
  const value = figure(text.trim());
  if (value !== null) return value;
  const trouble = text.trim() ? `“${text}” is not a figure` : 'is missing';
  throw new Refusal('not-a-number', `${what} ${trouble}. Type it like ${example}.`);
}

function Trouble({ text }: { text: string | null }) {
  if (!text) return null;
  return (
    <div className="sm:col-span-2">
      <Notice kind="trouble" role="alert">
        {text}
      </Notice>
    </div>
  );
}

/** Water and reading agree about that well before anything is known, as a share of the value. Common practice, no source. */
const AGREE_SHARE = 0.05;
const AGREE_TOLERANCES = 3;

/** A sample's value as it is typed, and whether it is plausible beside the sensor's reading of that moment. */
function useSample(run: BenchRun) {
  const { plan } = run.state;
  const figures = inFamily(plan);
  const kept = run.state.captures.at(-1);
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<string>(figures.unit);
  const [plusMinus, setPlusMinus] = useState('');
  const [temperature, setTemperature] = useState('');
  const [degrees, setDegrees] = useState<string>(degreesHere);
  const [doubt, setDoubt] = useState<Warning | null>(null);
  const changed = (set: (text: string) => void) => (text: string) => {
    setDoubt(null);
    set(text);
  };
  /** A comma, two digits, another scale. */
  const slip = (): Warning | null => {
    const reading = kept && figures.shown(kept.signal, kept.temperatureC, plan.inForce);
    const found = figure(value.trim());
    if (!kept || !reading || found === null) return null;
    const own = Math.hypot(AGREE_TOLERANCES * plan.tolerance, AGREE_SHARE * reading);
    const scale = scaleOf(figures.model, unit);
    const as = (value: number) => unlessRefused(() => scale.of(value, { temperatureC: kept.temperatureC }));
    const [expected, beyond] = [as(reading), as(reading + own) ?? as(reading - own)];
    if (expected === null || beyond === null) return null;
    const sd = Math.abs(beyond - expected);
    const scales = isCell(figures.model) ? PPM_SCALES : [];
    return slipIn({ text: value.trim(), value: found, unit, expected, sd, others: [], scales }).warning;
  };
  const make = (): Entry => ({
    kind: 'sample',
    value: typed(value, 'The value', '7.02'),
    unit,
    plusMinus: typed(plusMinus, 'The ±', '0.05'),
    temperatureC: convertTo(typed(temperature, 'The temperature', '24.5'), degrees as Unit, '°C')!,
  });
  const units = scalesOf(figures.model).map((s) => s.id);
  return {
    kept,
    figures,
    found: { unit, units, onUnit: changed(setUnit), value, onChange: changed(setValue) },
    plusMinus: { unit, units: [unit], value: plusMinus, onChange: setPlusMinus },
    at: {
      unit: degrees,
      units: ['°C', '°F'],
      onUnit: setDegrees,
      value: temperature,
      onChange: setTemperature,
    },
    doubt,
    setDoubt,
    slip,
    make,
  };
}

function Sample({ run, step, trouble, onEntry }: EntryForm & { run: BenchRun; step: Step }) {
  const { kept, figures, found, plusMinus, at, doubt, setDoubt, slip, make } = useSample(run);
  return (
    <form
      className="grid sm:grid-cols-2 gap-3 mt-4"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        const odd = slip();
        setDoubt(odd);
        if (!odd) onEntry(make);
      }}
    >
      {kept && <KeptReading figures={figures} kept={kept} plan={run.state.plan} />}
      <EntryField label="Found" {...found} />
      <EntryField label="Its ±, k = 2" {...plusMinus} />
      <EntryField label="Measured at" {...at} />
      <Trouble text={trouble} />
      {doubt ? (
        <Doubted
          warning={doubt}
          onAgain={() => setDoubt(null)}
          onStands={() => {
            run.send({ type: 'warned', stepId: step.id, odd: oddOf(doubt)!, kept: true });
            setDoubt(null);
            onEntry(make);
          }}
        />
      ) : (
        <button className="btn btn-primary h-16 text-xl sm:col-span-2">Hold it against the reading</button>
      )}
    </form>
  );
}

function KeptReading({ figures, kept, plan }: { figures: InFamily; kept: KeptCapture; plan: RunPlan }) {
  return (
    <p className="sm:col-span-2 sub">
      The reading kept with it:{' '}
      <span className="fig text-base-content">
        {figures.value(figures.shown(kept.signal, kept.temperatureC, plan.inForce))} {figures.unit}
      </span>{' '}
      at <span className="fig">{fixed(kept.temperatureC, 1)} °C</span>
    </p>
  );
}

function Thermometers({ trouble, onEntry }: EntryForm) {
  const [degrees, setDegrees] = useState<string>(degreesHere);
  const [a, setA] = useState('');
  const [b, setB] = useState('');
  const [accuracyA, setAccuracyA] = useState('');
  const [accuracyB, setAccuracyB] = useState('');
  const make = (): Entry => {
    const one = (text: string, accuracy: string, what: string) => {
      const read = convertTo(typed(text, what, '24.5'), degrees as Unit, '°C')!;
      const size = typed(accuracy, 'Its accuracy', '0.2');
      return { temperatureC: read, plusMinusC: degrees === '°F' ? size / 1.8 : size };
    };
    return {
      kind: 'thermometers',
      a: one(a, accuracyA, 'The first thermometer'),
      b: one(b, accuracyB, 'The second thermometer'),
    };
  };
  return (
    <form
      className="grid sm:grid-cols-2 gap-3 mt-4"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        onEntry(make);
      }}
    >
      <EntryField
        label="First thermometer"
        unit={degrees}
        units={['°C', '°F']}
        onUnit={setDegrees}
        value={a}
        onChange={setA}
      />
      <EntryField label="Its accuracy, ±" unit={degrees} units={[degrees]} value={accuracyA} onChange={setAccuracyA} />
      <EntryField
        label="Second thermometer"
        unit={degrees}
        units={['°C', '°F']}
        onUnit={setDegrees}
        value={b}
        onChange={setB}
      />
      <EntryField
        label="Its accuracy, ±"
        id="entry-second-accuracy"
        unit={degrees}
        units={[degrees]}
        value={accuracyB}
        onChange={setAccuracyB}
      />
      <Trouble text={trouble} />
      <button className="btn btn-primary h-16 text-xl sm:col-span-2">Both are read</button>
    </form>
  );
}

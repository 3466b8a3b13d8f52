import { useState } from 'react';
import { expectedIn, familyOf, figure, judge, offsetInSteps, pointsOf, spanOf, type Coefficients } from '@frustum/core';
import type { Problem } from '@frustum/contract';
import { useWriteAdjustmentMutation, api } from '../../../app/api.ts';
import { useKeys } from '../../../app/keys.ts';
import { flush } from '../../../app/outbox.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { inFamily, unlessRefused, upper } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { armCup } from '../armed-here.ts';
import { Photo } from '../photo.tsx';
import { DisplaySteps, OffsetToEnter } from './display-steps.tsx';
import { RefusedForm } from './refused-form.tsx';
import { SpanRows } from './span-rows.tsx';
import type { BenchRun } from '../use-run.ts';
import { problemOf } from '../../../format/problem.ts';

/** The read-back is captured by itself on the device that adjusted. */
function waitForReadBack({ view, state }: BenchRun): void {
  const next = state.steps.find((s) => s.purpose === 'read-back');
  if (next) armCup(view.runId, next);
}

/** The figures that go into the channel: written where that is possible, entered by hand where not. */
export function AdjustPanel({ run }: { run: BenchRun }) {
  const { state } = run;
  const found = judge(state)?.calibration.coefficients;
  const step = state.current;
  if (!found || !step) return null;
  const kind = state.plan.procedure?.kind;
  return (
    <>
      {kind === 'electrical' ? (
        <Trim run={run} found={found} />
      ) : familyOf(state.plan.family).thermometer ? (
        <Offset run={run} found={found} />
      ) : (
        <ZeroAndGain run={run} found={found} />
      )}
      <RefusedForm run={run} />
      <Photo run={run} step={step} />
    </>
  );
}

interface Part {
  readonly run: BenchRun;
  readonly found: Coefficients;
}

const WIDE = 'btn btn-primary h-16 text-lg w-full mt-5';

/** Silence in the middle of a write leaves open what the device holds now; a refusal does not. */
function notWritten({ code, detail }: Problem): string {
  if (code === 'no-answer')
    return 'Frustum’s server did not answer: the device may hold the new figures or the old ones. Write them again; they are read back.';
  if (code === 'device-unreachable') return `${detail} It may hold the new figures or the old ones. Write them again.`;
  return `${detail} Nothing was changed here.`;
}

function ZeroAndGain({ run, found }: Part) {
  const { state, view, send, prepare } = run;
  const { plan } = state;
  const dispatch = useAppDispatch();
  const [write] = useWriteAdjustmentMutation();
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const wired = plan.channelKind === 'modbus';
  const figures = inFamily(plan);
  const { family, signalDigits, signalUnit } = figures;
  const body = { type: 'adjusted' as const, coefficients: found, how: 'entered-by-hand' as const };
  const zero = (c: Coefficients) => `${fixed(c.zero, signalDigits)} ${signalUnit}`;
  const gain = (c: Coefficients) => `${fixed(100 * c.sensitivity, 1)} %`;
  const rows = [
    [`${upper(family.zero.name)}${family.zero.name === 'zero' ? ' (offset)' : ''}`, zero(plan.inForce), zero(found)],
    ...(!family.shown.sensitivity ? [] : [[upper(family.sensitivity.name), gain(plan.inForce), gain(found)]]),
  ];
  const entered = () => {
    waitForReadBack(run);
    send(body);
  };
  const writeAndReadBack = async () => {
    waitForReadBack(run);
    setTrouble(null);
    setBusy(true);
    // The decision that these figures rest on may still be on its way: the server must know it first.
    await dispatch(flush(view.runId));
    const answer = await write({ runId: view.runId, event: prepare(body) });
    if (answer.data) void dispatch(api.util.upsertQueryData('run', view.runId, answer.data));
    else setTrouble(notWritten(problemOf(answer.error)));
    setBusy(false);
  };
  const goOn = () => (busy ? undefined : wired ? void writeAndReadBack() : entered());
  useKeys({ n: [wired ? 'Write and read back' : 'I entered them', goOn] });
  return (
    <div>
      <h2 className="text-[27px] leading-tight">
        {wired ? 'Write these figures into the transmitter' : 'Enter these figures at the controller'}
      </h2>
      <Figures rows={rows} />
      <ShouldShow run={run} />
      {!wired && (
        <p className="sub mt-2">
          A controller that takes no figures: run its own calibration in the same cups, then confirm here.
        </p>
      )}
      {trouble && (
        <div className="mt-3">
          <Notice kind="trouble" role="alert">
            {trouble}
          </Notice>
        </div>
      )}
      <WriteOrEntered wired={wired} busy={busy} writeAndReadBack={() => void writeAndReadBack()} entered={entered} />
    </div>
  );
}

function Figures({ rows }: { rows: string[][] }) {
  return (
    <table className="w-full max-w-xl text-lg my-5">
      <thead>
        <tr className="sub text-sm text-right">
          <th className="font-normal text-left">figure</th>
          <th className="font-normal">in force</th>
          <th className="font-normal">new</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, before, after]) => (
          <tr key={name} className="border-t border-base-300">
            <td className="py-3">{name}</td>
            <td className="fig text-right sub">{before}</td>
            <td className="fig text-right text-2xl">{after}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function WriteOrEntered({
  wired,
  busy,
  writeAndReadBack,
  entered,
}: {
  wired: boolean;
  busy: boolean;
  writeAndReadBack: () => void;
  entered: () => void;
}) {
  return (
    <div className="flex gap-2.5 mt-5 flex-wrap">
      {wired && (
        <button
          type="button"
          className="btn btn-primary h-16 text-lg flex-1"
          disabled={busy}
          onClick={writeAndReadBack}
        >
          {busy ? 'Writing …' : 'Write and read back'}{' '}
          <kbd aria-hidden="true" className="key max-lg:hidden text-primary-content border-primary-content/50">
            n
          </kbd>
        </button>
      )}
      <button
        type="button"
        className={`btn h-16 text-lg flex-1 ${wired ? 'btn-outline border-base-300' : 'btn-primary'}`}
        disabled={busy}
        onClick={entered}
      >
        I entered them
      </button>
    </div>
  );
}

/** What the channel should show afterwards, standard by standard, as warm as the cups were. */
function ShouldShow({ run }: { run: BenchRun }) {
  const { state } = run;
  const figures = inFamily(state.plan);
  const { model, unit } = figures;
  const shows = pointsOf(state).flatMap((p) => {
    const expected = unlessRefused(() => expectedIn(model, p));
    const shown = figures.value(expected, 0, p.temperatureC);
    if (expected !== null && figures.family.thermometer) return [`${shown} ${unit} there`];
    return expected === null ? [] : [`${shown} ${unit} in ${p.standard.name} at ${fixed(p.temperatureC, 1)} °C`];
  });
  return <p className="sub">Afterwards it should show {shows.join(', ')}.</p>;
}

/** A display that takes an offset in steps of its own: what is entered, and what is known to remain. */
function Offset({ run, found }: Part) {
  const { state, send } = run;
  const { plan } = state;
  const written = inFamily(plan);
  const [unit, setUnit] = useState<'°C' | '°F'>(written.unit === '°F' ? '°F' : '°C');
  const [stepText, setStepText] = useState(String(written.written.step ?? 0.1));
  const factor = unit === '°F' ? 1.8 : 1;
  const step = figure(stepText);
  const wanted = -(found.zero - plan.inForce.zero) * factor;
  const made = step === null ? null : unlessRefused(() => offsetInSteps(wanted, step));
  const coefficients = made && {
    zero: plan.inForce.zero - made.entered / factor,
    sensitivity: plan.inForce.sensitivity,
  };
  return (
    <div>
      <h2 className="text-[27px] leading-tight">Enter this offset at the controller</h2>
      <DisplaySteps stepText={stepText} setStepText={setStepText} unit={unit} setUnit={setUnit} />
      {made ? (
        <OffsetToEnter made={made} unit={unit} wanted={wanted} />
      ) : (
        <div className="mt-3">
          <Notice kind="trouble" role="alert">
            “{stepText}” is no step of a display. Type the smallest change that it can show, like 0.1 or 1.
          </Notice>
        </div>
      )}
      <ShouldShow run={run} />
      <button
        type="button"
        className={WIDE}
        disabled={!coefficients}
        onClick={() => coefficients && send({ type: 'adjusted', coefficients, how: 'entered-by-hand' })}
      >
        I entered it
      </button>
    </div>
  );
}

/** A transmitter that is trimmed at some boxes and only looked at at others. */
function Trim({ run, found }: Part) {
  return (
    <div>
      <h2 className="text-[27px] leading-tight">Trim the transmitter</h2>
      <p className="mt-2 text-lg max-w-prose">
        At each box that may be adjusted, bring what is shown to what the box stands for. The next steps look at every
        box once more.
      </p>
      <SpanRows span={spanOf(run.state)} />
      <button
        type="button"
        className={WIDE}
        onClick={() => run.send({ type: 'adjusted', coefficients: found, how: 'entered-by-hand' })}
      >
        It is trimmed
      </button>
    </div>
  );
}

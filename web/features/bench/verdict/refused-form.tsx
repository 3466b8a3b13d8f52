import { useState } from 'react';
import { figure, type Family } from '@frustum/core';
import { inFamily } from '../../../format/in-family.ts';
import { Notice } from '../../../ui/notice.tsx';
import { EntryField } from '../enter/entry-field.tsx';
import type { BenchRun } from '../use-run.ts';

/** The instrument's own figures as they are typed, or what is wrong with them; none typed are none. */
function ownFigures(zero: string, percent: string) {
  const typed = [zero, percent].filter((text) => text.trim());
  const [reckoned, share] = [figure(zero), figure(percent)];
  const wrong = (trouble: string) => ({ shows: null, trouble });
  if (!typed.length) return { shows: null, trouble: null };
  if (typed.length === 1) return wrong('One figure alone says little: type both, or none.');
  if (reckoned === null || share === null) return wrong(`“${reckoned === null ? zero : percent}” is no figure.`);
  if (!(share >= 1 && share <= 2000))
    return wrong(
      `${percent} % is outside 1 to 2000 %. Type it as the instrument shows it, in percent of the ideal one.`,
    );
  return { shows: { zero: reckoned, sensitivity: share / 100 }, trouble: null };
}

/** A controller that says no: what it says, and its own figures if it shows them. Nothing was changed then. */
export function RefusedForm({ run }: { run: BenchRun }) {
  const [open, setOpen] = useState(false);
  const [message, setMessage] = useState('');
  const [zero, setZero] = useState('');
  const [percent, setPercent] = useState('');
  const { family, signalUnit } = inFamily(run.state.plan);
  if (!open)
    return (
      <button type="button" className="btn btn-ghost h-12 mt-2 font-normal text-base" onClick={() => setOpen(true)}>
        The instrument refused it
      </button>
    );
  const { shows, trouble } = ownFigures(zero, percent);
  const said = message.trim();
  const keep = () => {
    if (!said || trouble) return;
    run.send({ type: 'adjustment-refused', message: said, shows });
  };
  return (
    <form
      className="mt-4 border-t border-base-300 pt-3"
      aria-label="The instrument refused it"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <label className="sub text-sm block">
        What it says
        <input
          autoFocus
          className="input h-14 w-full text-base text-base-content block"
          maxLength={300}
          value={message}
          onChange={(e) => setMessage(e.target.value)}
        />
      </label>
      <p className="sub text-sm mt-3">Its own figures, if it shows them:</p>
      <OwnFigures
        family={family}
        signalUnit={signalUnit}
        zero={zero}
        setZero={setZero}
        percent={percent}
        setPercent={setPercent}
      />
      {trouble && (
        <div className="mt-3">
          <Notice kind="trouble" role="status">
            {trouble}
          </Notice>
        </div>
      )}
      <button className="btn h-14 text-base w-full mt-3" disabled={!said || trouble !== null}>
        Keep that it was refused: nothing was changed
      </button>
    </form>
  );
}

function OwnFigures({
  family,
  signalUnit,
  zero,
  setZero,
  percent,
  setPercent,
}: {
  family: Family;
  signalUnit: string;
  zero: string;
  setZero: (value: string) => void;
  percent: string;
  setPercent: (value: string) => void;
}) {
  return (
    <div className="grid sm:grid-cols-2 gap-2.5 mt-1">
      <EntryField
        label={`Its ${family.zero.name}`}
        unit={signalUnit}
        units={[signalUnit]}
        value={zero}
        onChange={setZero}
      />
      <EntryField
        label={`Its ${family.sensitivity.name}`}
        unit="%"
        units={['%']}
        value={percent}
        onChange={setPercent}
      />
    </div>
  );
}

/** What a refusal was, for the page of a run that has ended. */
export function refusedWords({ state }: BenchRun): string {
  const { refused, plan } = state;
  if (!refused) return '';
  const figures = inFamily(plan);
  const { family } = figures;
  const own = refused.shows
    ? ` It shows ${figures.coefficients(refused.shows)} (${family.zero.name} and ${family.sensitivity.name}).`
    : '';
  return `The instrument refused it: “${refused.message}”.${own} Nothing was changed.`;
}

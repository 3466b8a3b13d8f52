import { useState } from 'react';
import {
  COVERAGE,
  digitsFor,
  familyOfPlan,
  fitOf,
  judge,
  pointsOf,
  type DecisionAction,
  type RunState,
} from '@frustum/core';
import { fixed, signed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { UncertaintyBudget } from './uncertainty-budget.tsx';
import type { BenchRun } from './use-run.ts';

const ACTIONS: Record<DecisionAction, string> = {
  leave: 'Leave it',
  adjust: 'Adjust it',
  'clean-and-retest': 'Clean and retest',
  replace: 'Replace it',
};

/** What the numbers say to do, why, and the buttons that follow from it. The operator decides. */
export function VerdictPanel({ run }: { run: BenchRun }) {
  const { state, send } = run;
  const [because, setBecause] = useState('');
  const verdict = judge(state);
  const decide = (action: DecisionAction) => send({ type: 'decided', action, because: because.trim() });
  if (!verdict) {
    const fit = fitOf(state);
    return (
      <Notice kind="trouble" role="alert">
        {fit.ok ? 'A standard is still missing.' : fit.message} Go back to a step on the left and capture it again, or
        abandon the run.
      </Notice>
    );
  }
  const { working, calibration, reasons, action } = verdict;
  const { family, model } = familyOfPlan(state.plan);
  const others = (Object.keys(ACTIONS) as DecisionAction[]).filter((a) => a !== action);
  return (
    <div>
      <h2 className="text-[27px] leading-tight" data-testid="verdict">
        {verdict.sentence}
      </h2>
      <ul className="mt-3 space-y-2 text-[17px]">
        {reasons.map((r) => (
          <li key={r.code + r.text}>{r.text}</li>
        ))}
      </ul>
      <button type="button" className="btn btn-primary w-full h-16 text-[21px] mt-5" onClick={() => decide(action)}>
        {ACTIONS[action]}
      </button>
      <details className="mt-5 border-t border-base-300 pt-3">
        <summary className="cursor-pointer py-2 font-semibold">Why: the figures behind it</summary>
        <Why state={state} />
        <p className="sub text-sm">
          As found: {signed(working.error, digitsFor(state.plan.tolerance) + 1)} {model.valueUnit} at{' '}
          {state.plan.workingValue}, {family.zero.name} {fixed(calibration.coefficients.zero, 2)} {model.signalUnit} ±
          {fixed(COVERAGE * Math.sqrt(calibration.covariance[0][0]), 2)}, {family.sensitivity.name}{' '}
          {fixed(100 * calibration.coefficients.sensitivity, 2)} % ±
          {fixed(100 * COVERAGE * Math.sqrt(calibration.covariance[1][1]), 2)}. Limits here are common practice; change
          them where yours differ.
        </p>
      </details>
      <details className="mt-1 border-t border-base-300 pt-3">
        <summary className="cursor-pointer py-2 font-semibold">Decide otherwise</summary>
        <label className="block sub text-sm mb-1" htmlFor="because">
          Why, in a few words
        </label>
        <input
          id="because"
          className="input w-full h-12"
          maxLength={300}
          value={because}
          onChange={(e) => setBecause(e.target.value)}
        />
        <div className="flex gap-2.5 mt-2.5 flex-wrap">
          {others.map((a) => (
            <button
              key={a}
              type="button"
              className="btn btn-outline border-base-300 h-14"
              disabled={!because.trim()}
              onClick={() => decide(a)}
            >
              {ACTIONS[a]}
            </button>
          ))}
        </div>
      </details>
    </div>
  );
}

/** What the ± at the working value is made of. */
function Why({ state }: { state: RunState }) {
  const { plan } = state;
  const points = pointsOf(state);
  if (points.length === 0) return null;
  const calibrationC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  return (
    <UncertaintyBudget
      familyId={plan.family}
      settings={plan.settings}
      points={points}
      at={{ value: plan.workingValue, temperatureC: plan.workingC, calibrationC }}
    />
  );
}

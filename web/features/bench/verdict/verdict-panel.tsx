import { useState } from 'react';
import {
  adjustTrouble,
  chasesNoise,
  COVERAGE,
  dosedBy,
  judge,
  mayAdjust,
  oddWords,
  planInForce,
  pointsOf,
  spanOf,
  statementWords,
  whyNotJudged,
  writtenOfPlan,
  type DecisionAction,
  type RunState,
  type Verdict,
} from '@frustum/core';
import { useKeys, type Keys } from '../../../app/keys.ts';
import { inFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { IfNothing } from './if-nothing.tsx';
import { SpanRows } from './span-rows.tsx';
import { UncertaintyBudget } from './uncertainty-budget.tsx';
import type { BenchRun } from '../use-run.ts';

export const ACTIONS: Record<DecisionAction, string> = {
  leave: 'Leave it',
  adjust: 'Adjust it',
  'clean-and-retest': 'Clean and retest',
  investigate: 'Investigate it',
  replace: 'Replace it',
  'go-on': 'Go on to the others',
};

/** What can be decided here: a health check goes on or ends, a verification never adjusts, a box is no probe to clean. */
function choicesOf(state: RunState): readonly DecisionAction[] {
  const kind = state.plan.procedure?.kind ?? 'calibrate';
  if (state.current?.key === 'check') return ['leave', 'go-on', 'investigate', 'replace'];
  const all: readonly DecisionAction[] =
    kind === 'electrical'
      ? ['leave', 'adjust', 'investigate']
      : ['leave', 'adjust', 'clean-and-retest', 'investigate', 'replace'];
  const adjustable = mayAdjust(kind) && adjustTrouble(state) === null;
  return all.filter((a) => a !== 'adjust' || adjustable);
}

/** What the numbers say to do, why, and the buttons that follow from it. The operator decides. */
export function VerdictPanel({ run }: { run: BenchRun }) {
  const { state, send } = run;
  const [because, setBecause] = useState('');
  const verdict = judge(state);
  const decide = (action: DecisionAction) => send({ type: 'decided', action, because: because.trim() });
  const keys: Keys = verdict ? { n: [ACTIONS[verdict.action], () => decide(verdict.action)] } : {};
  useKeys(keys);
  if (!verdict) {
    return (
      <Notice kind="trouble" role="alert">
        {whyNotJudged(state)} Go back to a step on the left and capture it again, or abandon the run.
      </Notice>
    );
  }
  const { reasons, action } = verdict;
  const electrical = state.plan.procedure?.kind === 'electrical';
  const others = choicesOf(state).filter((a) => a !== action);
  return (
    <div>
      <h2 className="text-[27px] leading-tight" data-testid="verdict">
        {verdict.sentence}
      </h2>
      {verdict.statement && (
        <p className="mt-2 text-[17px]" data-testid="statement">
          {statementWords(verdict.statement, state.plan.tolerance, writtenOfPlan(state.plan))}
        </p>
      )}
      <ul className="mt-3 space-y-2 text-[17px]">
        {reasons.map((r) => (
          <li key={r.code + r.text}>{r.text}</li>
        ))}
      </ul>
      <Dosed state={state} verdict={verdict} />
      <button type="button" className="btn btn-primary w-full h-16 text-[21px] mt-5" onClick={() => decide(action)}>
        {ACTIONS[action]}{' '}
        <kbd aria-hidden="true" className="key max-lg:hidden text-primary-content border-primary-content/50">
          n
        </kbd>
      </button>
      {electrical ? <SpanRows span={spanOf(state)} /> : <IfNothing run={run} />}
      {!electrical && (
        <details className="mt-5 border-t border-base-300 pt-3">
          <summary className="cursor-pointer py-2 font-semibold">Why: the figures behind it</summary>
          <Why state={state} verdict={verdict} />
        </details>
      )}
      <DecideOtherwise
        others={others}
        state={state}
        verdict={verdict}
        because={because}
        setBecause={setBecause}
        decide={decide}
      />
    </div>
  );
}

function DecideOtherwise({
  others,
  state,
  verdict,
  because,
  setBecause,
  decide,
}: {
  others: ('leave' | 'adjust' | 'clean-and-retest' | 'investigate' | 'replace' | 'go-on')[];
  state: RunState;
  verdict: Verdict;
  because: string;
  setBecause: (value: string) => void;
  decide: (action: DecisionAction) => void;
}) {
  return (
    <details className="mt-1 border-t border-base-300 pt-3">
      <summary className="cursor-pointer py-2 font-semibold">Decide otherwise</summary>
      {others.includes('adjust') && <Chased state={state} verdict={verdict} />}
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
  );
}

/** Who adjusts inside the noise is told so before, not stopped. */
function Chased({ state, verdict }: { state: RunState; verdict: Verdict }) {
  const { plan } = state;
  const { digits, unit, written } = inFamily(plan);
  if (!plan.inForceKnown || plan.procedure?.kind === 'electrical') return null;
  const [uncertainty, tolerance] = [written.size(verdict.working.uncertainty), written.size(plan.tolerance)];
  const facts = { error: written.off(verdict.working.error), uncertainty, tolerance, unit, digits };
  const { warning } = chasesNoise(facts);
  if (!warning) return null;
  const words = oddWords(warning);
  return (
    <div className="mb-3" data-warning={warning.id}>
      <Notice kind="care">
        <p className="font-semibold">{words.title}</p>
        <p className="text-[15px]">{words.because}</p>
        <p className="sub text-[15px]">{words.tells}</p>
      </Notice>
    </div>
  );
}

/** What today's error means for what the loop controls: only where there is an error to speak of. */
function Dosed({ state, verdict }: { state: RunState; verdict: Verdict }) {
  const { plan } = state;
  const { error, uncertainty } = verdict.working;
  const { digits, unit, written } = inFamily(plan);
  const silent =
    !plan.controls ||
    !plan.inForceKnown ||
    plan.procedure?.kind === 'electrical' ||
    Math.abs(error) <= uncertainty ||
    Number(Math.abs(written.off(error)).toFixed(digits)) === 0;
  if (silent) return null;
  const { controls, controlAction: action = '', workingValue } = plan;
  const value = written.exact(workingValue) ?? workingValue;
  const said = dosedBy({ value, error: written.off(error), digits, unit, controls, action });
  return <p className="mt-3 text-[17px]">{said}</p>;
}

/** The line behind the verdict, and what the ± at the working value is made of. */
function Why({ state, verdict }: { state: RunState; verdict: Verdict }) {
  const plan = planInForce(state);
  const points = pointsOf(state);
  const figures = inFamily(plan);
  const { working, calibration } = verdict;
  if (points.length === 0) return null;
  const calibrationC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  const { family } = figures;
  const { coefficients, covariance } = calibration;
  return (
    <>
      <UncertaintyBudget
        plan={plan}
        points={points}
        at={{ value: plan.workingValue, temperatureC: plan.workingC, calibrationC }}
      />
      <p className="sub text-sm">
        As found: {figures.off(working.error, 1)} {figures.unit} at {figures.value(plan.workingValue)},{' '}
        {family.zero.name} {fixed(coefficients.zero, figures.signalDigits + 1)} {figures.signalUnit} ±
        {fixed(COVERAGE * Math.sqrt(covariance[0][0]), figures.signalDigits + 1)}, {family.sensitivity.name}{' '}
        {fixed(100 * coefficients.sensitivity, 2)} % ±{fixed(100 * COVERAGE * Math.sqrt(covariance[1][1]), 2)}. Limits
        here are common practice; change them where yours differ.
      </p>
    </>
  );
}

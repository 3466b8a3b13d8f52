import { lazy, Suspense } from 'react';
import {
  asFound,
  COVERAGE,
  digitsFor,
  familyOfPlan,
  fitOf,
  judge,
  lastPass,
  pointsOf,
  shownValue,
  signalOf,
  type Coefficients,
  type RunState,
} from '@frustum/core';
import { fixed, signed } from '../../format/numbers.ts';

const LineChart = lazy(() => import('../../charts/line-chart.tsx'));

/** The right column: the line growing, what was found before what is left, zero, slope and the error that counts. */
export function FoundSoFar({ state }: { state: RunState }) {
  const { plan } = state;
  const { family, model } = familyOfPlan(plan);
  const digits = digitsFor(plan.tolerance);
  const pass = lastPass(state);
  const points = pointsOf(state, pass);
  const fit = fitOf(state, pass);
  const verdict = judge(state);
  const slots = plan.points.map((p, i) => ({ planned: p, measured: points.find((m) => m.pointIndex === i) ?? null }));
  const meanC = points.length ? points.reduce((s, p) => s + p.temperatureC, 0) / points.length : 25;
  const expected = (i: number) =>
    slots[i]!.measured ? asFound(model, slots[i]!.measured, plan.inForce).expected : slots[i]!.planned.standard.nominal;
  const line = (of: Coefficients) => (value: number) => signalOf(model, value, meanC, of);
  const readBack = state.captures.find((c) => c.purpose === 'read-back');
  return (
    <section
      aria-label="What this run says so far"
      className="px-4 lg:px-[22px] py-4 lg:py-5 max-lg:border-t border-base-300"
    >
      <h2>What this run says so far{pass > 1 ? ', after cleaning' : ''}</h2>
      <Suspense fallback={<div className="h-[180px]" />}>
        <LineChart
          points={slots.map((s, i) => ({ value: expected(i), signal: s.measured?.signal ?? null }))}
          inForce={line(plan.inForce)}
          found={fit.ok ? line(fit.coefficients) : null}
          signalUnit={model.signalUnit}
        />
      </Suspense>
      <table className="w-full text-[15px] mt-2">
        <thead>
          <tr className="sub text-[13px] text-right">
            <th className="font-normal text-left py-1.5">standard</th>
            <th className="font-normal">{model.signalUnit}</th>
            <th className="font-normal">found</th>
            <th className="font-normal">off</th>
          </tr>
        </thead>
        <tbody className="fig text-right">
          {slots.map(({ measured, planned }, i) => {
            const found = measured ? asFound(model, measured, plan.inForce) : null;
            return (
              <tr key={planned.standard.id} className="border-t border-base-300">
                <td className="text-left py-1.5">{fixed(expected(i), digits)}</td>
                <td>{fixed(measured?.signal, 1)}</td>
                <td>{fixed(found?.shown, digits)}</td>
                <td>{signed(found?.error, digits)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <table className="w-full text-[15px] mt-3">
        <tbody>
          <Figure
            name={fit.ok ? upper(family.zero.name) : `${upper(family.zero.name)}, expected`}
            value={`${fixed(fit.ok ? fit.coefficients.zero : plan.expected.zero, 1)} ${model.signalUnit}`}
          />
          <Figure
            name={fit.ok ? upper(family.sensitivity.name) : `${upper(family.sensitivity.name)}, expected`}
            value={`${fixed(100 * (fit.ok ? fit.coefficients.sensitivity : plan.expected.sensitivity), 1)} %`}
          />
          {verdict && (
            <Figure
              name={`As found, off at ${plan.workingValue}`}
              value={`${signed(verdict.working.error, digits)} ±${fixed(COVERAGE * verdict.working.uncertainty, digits)}`}
            />
          )}
          {state.adjusted && (
            <Figure
              name="As left"
              value={`${fixed(state.adjusted.coefficients.zero, 1)} ${model.signalUnit}, ${fixed(100 * state.adjusted.coefficients.sensitivity, 1)} %`}
            />
          )}
          {readBack && state.adjusted && (
            <Figure
              name={`Read back in ${plan.points[readBack.pointIndex]!.standard.name}`}
              value={fixed(
                shownValue(model, readBack.signal, readBack.temperatureC, state.adjusted.coefficients),
                digits,
              )}
            />
          )}
        </tbody>
      </table>
      <Remarks state={state} />
    </section>
  );
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <tr className="border-t border-base-300">
      <td className="py-1.5">{name}</td>
      <td className="fig text-right">{value}</td>
    </tr>
  );
}

function Remarks({ state }: { state: RunState }) {
  const { plan } = state;
  const { family, model } = familyOfPlan(plan);
  const disagreements = pointsOf(state).filter((p) => p.disagreement !== null);
  return (
    <div className="sub text-[15px] mt-3 space-y-1.5">
      {!plan.inForceKnown && (
        <p>
          First run here: nobody has said what the channel believes, so it is taken as {family.zero.name} 0{' '}
          {model.signalUnit} and {family.sensitivity.name} 100 %.
        </p>
      )}
      {disagreements.map((p) => (
        <p key={p.pointIndex}>
          Two settlings in {p.standard.name}:{' '}
          <span className="fig">
            {signed(p.disagreement, 2)} {model.signalUnit}
          </span>{' '}
          apart.
        </p>
      ))}
      {state.disturbances > 0 && (
        <p>
          Disturbed {state.disturbances === 1 ? 'once' : `${state.disturbances} times`}; each time it settled again.
        </p>
      )}
      {state.warnings.map((w, i) => (
        <p key={i}>
          {w.kept ? 'Kept in spite of: ' : 'Noticed: '}
          {w.warning}
        </p>
      ))}
    </div>
  );
}

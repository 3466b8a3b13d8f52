import { lazy, Suspense } from 'react';
import { COVERAGE, fitOf, foundAt, judge, lastPass, millivolts, pointsOf, type RunState } from '@frustum/core';
import { fixed, signed } from '../../format/numbers.ts';

const LineChart = lazy(() => import('../../charts/line-chart.tsx'));

/** The right column: the line growing, what was found before what is left, zero, slope and the error that counts. */
export function FoundSoFar({ state }: { state: RunState }) {
  const { plan } = state;
  const pass = lastPass(state);
  const points = pointsOf(state, pass);
  const fit = fitOf(state, pass);
  const verdict = judge(state);
  const slots = plan.points.map((p, i) => ({ planned: p, measured: points.find((m) => m.pointIndex === i) ?? null }));
  const meanC = points.length ? points.reduce((s, p) => s + p.temperatureC, 0) / points.length : 25;
  const expected = (i: number) =>
    slots[i]!.measured ? foundAt(slots[i]!.measured, plan.inForce).expected : slots[i]!.planned.standard.nominal;
  const readBack = state.captures.find((c) => c.purpose === 'read-back');
  return (
    <section
      aria-label="What this run says so far"
      className="px-4 lg:px-[22px] py-4 lg:py-5 max-lg:border-t border-base-300"
    >
      <h2>What this run says so far{pass > 1 ? ', after cleaning' : ''}</h2>
      <Suspense fallback={<div className="h-[180px]" />}>
        <LineChart
          points={slots.map((s, i) => ({ ph: expected(i), mv: s.measured?.signal ?? null }))}
          inForce={(ph) => millivolts(ph, meanC, plan.inForce)}
          found={fit.ok ? (ph) => millivolts(ph, meanC, fit.coefficients) : null}
        />
      </Suspense>
      <table className="w-full text-[15px] mt-2">
        <thead>
          <tr className="sub text-[13px] text-right">
            <th className="font-normal text-left py-1.5">standard</th>
            <th className="font-normal">mV</th>
            <th className="font-normal">found</th>
            <th className="font-normal">off</th>
          </tr>
        </thead>
        <tbody className="fig text-right">
          {slots.map(({ measured, planned }, i) => {
            const found = measured ? foundAt(measured, plan.inForce) : null;
            return (
              <tr key={planned.standard.id} className="border-t border-base-300">
                <td className="text-left py-1.5">{fixed(expected(i), 2)}</td>
                <td>{fixed(measured?.signal, 1)}</td>
                <td>{fixed(found?.shown, 2)}</td>
                <td>{signed(found?.error, 2)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <table className="w-full text-[15px] mt-3">
        <tbody>
          <Figure
            name={fit.ok ? 'Zero' : 'Zero, expected'}
            value={`${fixed(fit.ok ? fit.coefficients.zero : plan.expected.zero, 1)} mV`}
          />
          <Figure
            name={fit.ok ? 'Slope' : 'Slope, expected'}
            value={`${fixed(100 * (fit.ok ? fit.coefficients.sensitivity : plan.expected.sensitivity), 1)} %`}
          />
          {verdict && (
            <Figure
              name={`As found, off at ${plan.workingValue}`}
              value={`${signed(verdict.working.error, 2)} ±${fixed(COVERAGE * verdict.working.uncertainty, 2)}`}
            />
          )}
          {state.adjusted && (
            <Figure
              name="As left"
              value={`${fixed(state.adjusted.coefficients.zero, 1)} mV, ${fixed(100 * state.adjusted.coefficients.sensitivity, 1)} %`}
            />
          )}
          {readBack && state.adjusted && (
            <Figure
              name={`Read back in ${plan.points[readBack.pointIndex]!.standard.name}`}
              value={fixed(
                foundAt(
                  { ...readBack, standard: plan.points[readBack.pointIndex]!.standard },
                  state.adjusted.coefficients,
                ).shown,
                2,
              )}
            />
          )}
        </tbody>
      </table>
      <Remarks state={state} />
    </section>
  );
}

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
  const disagreements = pointsOf(state).filter((p) => p.disagreement !== null);
  return (
    <div className="sub text-[15px] mt-3 space-y-1.5">
      {!plan.inForceKnown && (
        <p>First run here: nobody has said what the channel believes, so it is taken as zero 0 mV and slope 100 %.</p>
      )}
      {disagreements.map((p) => (
        <p key={p.pointIndex}>
          Two settlings in {p.standard.name}: <span className="fig">{signed(p.disagreement, 2)} mV</span> apart.
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

import {
  asFound,
  conditionWords,
  expectedIn,
  expandedOf,
  fitOf,
  judge,
  inputOf,
  lastPass,
  oddRecord,
  planInForce,
  pointsOf,
  signalOf,
  standardAt,
  type CalibrationResult,
  type Coefficients,
  type Model,
  type RunPlan,
  type RunState,
  type Standard,
} from '@frustum/core';
import LineChart from '../../charts/line-chart.tsx';
import { inFamily, unlessRefused, upper } from '../../format/in-family.ts';
import { fixed, signed } from '../../format/numbers.ts';

/** What a run says so far, as the right column shows it. */
function foundIn(state: RunState) {
  const { plan } = state;
  const pass = lastPass(state);
  const points = pointsOf(state, pass);
  const waitsForValue = plan.procedure?.kind === 'sample' && !state.entered[`${pass}.0`];
  // A health check that has not gone on has one standard.
  const checked = planInForce(state).points.length;
  const upTo = plan.points.length - (plan.points.filter((p) => p.role !== 'input').length - checked);
  const slots = plan.points.flatMap((planned, i) =>
    planned.role === 'input' || i >= upTo || waitsForValue
      ? []
      : [
          {
            standard: standardAt(state, pass, i) ?? planned.standard,
            measured: points.find((m) => m.pointIndex === i) ?? null,
          },
        ],
  );
  return {
    pass,
    slots,
    figures: inFamily(plan),
    fit: waitsForValue ? NOT_YET : fitOf(state, pass),
    // Until the sample's value is entered its place is taken by a dummy value: judge nothing with it.
    verdict: waitsForValue ? null : judge(state),
    meanC: points.length ? points.reduce((s, p) => s + p.temperatureC, 0) / points.length : 25,
  };
}
type Found = ReturnType<typeof foundIn>;

/** What a right channel shows in a slot's standard: as it was measured, or at its label's temperature. */
const expectedOf = ({ figures: { model } }: Found, plan: RunPlan, { measured, standard }: Found['slots'][number]) =>
  (measured && unlessRefused(() => asFound(model, measured, plan.inForce).expected)) ?? nominalIn(model, standard);

/** The right column: the line growing, what was found before what is left, zero, slope and the error that counts. */
export function FoundSoFar({ state }: { state: RunState }) {
  const found = foundIn(state);
  const name = state.status === 'open' ? 'What this run says so far' : 'What this run found';
  return (
    <section aria-label={name} className="px-4 lg:px-[22px] py-4 lg:py-5 max-lg:border-t border-base-300">
      <h2>
        {name}
        {found.pass > 1 ? ', after cleaning' : ''}
      </h2>
      {found.slots.length === 0 && <p className="sub mt-2">Nothing yet: the value is still to be entered.</p>}
      {found.slots.length > 0 && <LineSoFar found={found} plan={state.plan} />}
      <FoundTable found={found} plan={state.plan} />
      <Figures found={found} state={state} />
      <Remarks state={state} />
    </section>
  );
}

function LineSoFar({ found, plan }: { found: Found; plan: RunPlan }) {
  const { figures, fit, meanC, slots } = found;
  const { family, model } = figures;
  // Beyond the ends of a scale there is no signal: the line ends there.
  const { low, high } = model.range;
  const line = (of: Coefficients) => (value: number) =>
    unlessRefused(() => signalOf(model, Math.min(high, Math.max(low, value)), { temperatureC: meanC }, of)) ?? NaN;
  return (
    <LineChart
      points={slots.map((s) => ({ value: expectedOf(found, plan, s), signal: s.measured?.signal ?? null }))}
      inForce={line(plan.inForce)}
      found={fit.ok ? line(fit.coefficients) : null}
      signalUnit={model.signalUnit}
      print={(value) => figures.value(value)}
      log={family.shown.line === 'logarithmic'}
    />
  );
}

function FoundTable({ found, plan }: { found: Found; plan: RunPlan }) {
  const { figures, slots } = found;
  const { model, signalDigits } = figures;
  return (
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
        {slots.map((slot) => {
          const { measured, standard } = slot;
          const shown = measured && unlessRefused(() => asFound(model, measured, plan.inForce));
          return (
            <tr key={standard.id} className="border-t border-base-300">
              <td className="text-left py-1.5">
                {figures.value(expectedOf(found, plan, slot), 0, measured?.temperatureC)}
              </td>
              <td>{fixed(measured?.signal, signalDigits)}</td>
              <td>{figures.value(shown?.shown, 0, measured?.temperatureC)}</td>
              <td>{figures.off(shown?.error)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Figures({ found: { figures, fit, verdict }, state }: { found: Found; state: RunState }) {
  const { plan } = state;
  const { family, model, signalDigits } = figures;
  const input = inputOf(state);
  const readBack = state.captures.find((c) => c.purpose === 'read-back');
  const { zero, sensitivity } = fit.ok ? fit.coefficients : plan.expected;
  const named = (name: string) => (fit.ok ? upper(name) : `${upper(name)}, expected`);
  return (
    <table className="w-full text-[15px] mt-3">
      <tbody>
        <Figure name={named(family.zero.name)} value={`${fixed(zero, signalDigits)} ${model.signalUnit}`} />
        <Figure name={named(family.sensitivity.name)} value={`${fixed(100 * sensitivity, 1)} %`} />
        {input && <Figure name="Shorted input" value={`${signed(input.signal, 1)} ${model.signalUnit}`} />}
        {verdict && plan.procedure?.kind !== 'electrical' && (
          <Figure
            name={`As found, off at ${figures.written.worksAt} ${figures.unit}`}
            value={`${figures.off(verdict.working.error)} ±${figures.size(expandedOf(verdict.working))}`}
          />
        )}
        {state.adjusted && <Figure name="As left" value={figures.coefficients(state.adjusted.coefficients)} />}
        {readBack && state.adjusted && (
          <Figure
            name={`Read back in ${plan.points[readBack.pointIndex]!.standard.name}`}
            value={figures.value(figures.shown(readBack.signal, readBack.temperatureC, state.adjusted.coefficients))}
          />
        )}
      </tbody>
    </table>
  );
}

const NOT_YET: CalibrationResult = { ok: false, reason: 'too-few-standards', message: '' };

/** What a right channel shows in a standard at its label's temperature. */
const nominalIn = (model: Model, standard: Standard) =>
  unlessRefused(() => expectedIn(model, { standard, temperatureC: standard.nominalAtC })) ?? standard.nominal;

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
  const { family, model, signalDigits } = inFamily(plan);
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
            {signed(p.disagreement, signalDigits + 1)} {model.signalUnit}
          </span>{' '}
          apart.
        </p>
      ))}
      {state.disturbances > 0 && (
        <p>Disturbed {state.disturbances === 1 ? 'once' : `${state.disturbances} times`}; it settled again.</p>
      )}
      {plan.conditions?.map((c) => (
        <p key={c.name}>{upper(conditionWords(c))}.</p>
      ))}
      {plan.gates?.map((g) => (
        <p key={g.id}>
          {g.text} Begun all the same: {g.because}
        </p>
      ))}
      {state.skipped.map((s) => (
        <p key={s.stepId}>
          Passed over: {s.title}. {s.because}
        </p>
      ))}
      {state.warnings.map((w, i) => (
        <p key={i}>
          {w.kept ? 'Kept in spite of: ' : 'Noticed: '}
          {oddRecord(w.odd, w.kept)}
        </p>
      ))}
    </div>
  );
}

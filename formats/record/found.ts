import {
  afterRefusal,
  budgetOf,
  COVERAGE,
  expandedOf,
  familyOfPlan,
  fitOf,
  judge,
  lastPass,
  outcomeOf,
  planInForce,
  pointsOf,
  signalDigitsFor,
  spanOf,
  unlessRefused,
  statementWords,
  writtenOfPlan,
  type DecisionAction,
  type RunOutcome,
  type RunState,
  type ValueError,
  type Written,
} from '@frustum/core';
import { fixed, h2, list, pairs, signed, table, timeOf, upper, type Piece } from './paper.ts';

const ACTIONS: Record<DecisionAction, string> = {
  leave: 'left as it is',
  adjust: 'adjusted',
  'clean-and-retest': 'cleaned and tested again',
  investigate: 'to be investigated',
  replace: 'to be replaced',
  'go-on': 'gone on to the other standards',
};
/** Verdict, what was decided, and the figures behind both. */
export function found(state: RunState): Piece[] {
  const electrical = state.plan.procedure?.kind === 'electrical';
  const verdict = judge(state);
  const outcome = outcomeOf(state);
  const plan = planInForce(state);
  const { family, model } = familyOfPlan(plan);
  const signalDigits = signalDigitsFor(family.step.absolute);
  const both = (c: { zero: number; sensitivity: number }) =>
    `${fixed(c.zero, signalDigits)} ${model.signalUnit}, ${fixed(100 * c.sensitivity, 1)} %`;
  const written = writtenOfPlan(plan);
  const digits = electrical ? 2 : written.digits;
  const decided = state.decisions.map(
    (d) => `${timeOf(d.at)}: ${ACTIONS[d.action]}${d.because ? `, because ${d.because}` : ''}`,
  );
  const parts: Piece[] = [
    h2('Verdict'),
    { text: verdict?.sentence ?? 'No verdict: standards are missing.', bold: true },
  ];
  if (verdict?.statement) parts.push({ text: statementWords(verdict.statement, plan.tolerance, written) });
  if (verdict) parts.push(...list(verdict.reasons.map((r) => r.text)));
  if (decided.length) parts.push({ text: 'Decided', margin: [0, 4, 0, 0] }, ...list(decided));
  const { refused } = state;
  if (refused)
    parts.push(
      { text: 'The instrument refused it', margin: [0, 4, 0, 0] },
      ...list([
        `${timeOf(refused.at)}: “${refused.message}”; nothing was changed`,
        ...(refused.shows ? [`its own figures: ${both(refused.shows)}`] : []),
        afterRefusal(state)!,
      ]),
    );
  if (electrical) return [...parts, ...spanRows(state)];
  const fit = fitOf(state);
  if (!fit.ok) return parts;
  const at = (e: ValueError) =>
    `${signed(written.off(e.error), digits + 1)} ±${fixed(written.size(expandedOf(e)), digits + 1)} ${written.unit} at ${written.worksAt} (k = ${e.coverageFactor ?? COVERAGE})`;
  parts.push(
    h2(upper(`${family.zero.name} and ${family.sensitivity.name}`)),
    pairs([
      ['in force before', plan.inForceKnown ? both(plan.inForce) : 'not known'],
      [
        'found',
        `${both(fit.coefficients)}; ±${fixed(COVERAGE * Math.sqrt(fit.covariance[0][0]), signalDigits + 1)}, ±${fixed(100 * COVERAGE * Math.sqrt(fit.covariance[1][1]), 2)} (k = ${COVERAGE})`,
      ],
      [
        'adjusted to',
        state.adjusted ? `${both(state.adjusted.coefficients)}, ${state.adjusted.how.replaceAll('-', ' ')}` : '',
      ],
      ['error as found', outcome ? at(outcome.asFound) : verdict ? at(verdict.working) : ''],
      ['error as left', outcome ? at(outcome.asLeft) : ''],
      ['read back', outcome ? readBackIn(outcome, written) : ''],
    ]),
  );
  return [...parts, ...budget(state)];
}

/** "7.01 pH in 7.00, +0.008 ±0.020 off, En 0.40": measured after the adjustment, in the bottle that it was made in. */
function readBackIn(
  { readBack, readBackShown }: Pick<RunOutcome, 'readBack' | 'readBackShown'>,
  written: Written,
): string {
  if (readBackShown === null) return '';
  const shown = `${fixed(written.value(readBackShown), written.valueDigits)} ${written.unit}`;
  if (!readBack) return shown;
  const { standard, expected, expanded, en } = readBack;
  const digits = written.valueDigits + 1;
  const off = `${signed(written.off(readBackShown - expected), digits)} ±${fixed(written.size(expanded), digits)} off`;
  return `${shown} in ${standard}, ${off}, En ${fixed(Math.abs(en), 2)}${Math.abs(en) > 1 ? ': it does not agree with the calibration' : ''}`;
}

function spanRows(state: RunState): Piece[] {
  const row = (e: { percentOfSpan: number } | null) => (e ? `${signed(e.percentOfSpan, 2)} %` : '–');
  return [
    h2('As found and as left, in % of span'),
    table(
      ['*', 70, 70, 70, 80],
      [
        ['box', 'stands for', 'found', 'left', 'use'],
        ...spanOf(state).rows.map((r) => [
          r.label,
          fixed(r.applied, 2),
          row(r.found),
          row(r.left),
          r.use === 'verify' ? 'only looked at' : 'may be adjusted',
        ]),
      ],
    ),
  ];
}

/** What the ± is made of. */
function budget(state: RunState): Piece[] {
  const plan = planInForce(state);
  const points = pointsOf(state, lastPass(state));
  const fit = fitOf(state);
  if (!fit.ok || !points.length) return [];
  const calibrationC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  const { model } = familyOfPlan(plan);
  // Two cups that read alike give a slope of nothing: there is no ± to take apart.
  const made = unlessRefused(() =>
    budgetOf(model, fit.whole, { value: plan.workingValue, temperatureC: plan.workingC, calibrationC }, plan.inForce),
  );
  if (!made) return [];
  const written = writtenOfPlan(plan);
  const size = (own: number) => String(Number(written.size(own).toPrecision(2)));
  return [
    h2(`What the ± at ${written.worksAt} ${written.unit} is made of`),
    table(
      ['*', 110, 110],
      [
        ['source', 'is known to (1 s.u.)', `gives, ${written.unit}`],
        ...made.rows.map((r) => [r.name, `${Number(r.uncertainty.toPrecision(2))} ${r.unit}`, size(r.contribution)]),
        ['together', `×${Number(made.coverageFactor.toPrecision(3))}`, size(made.expanded)],
      ],
    ),
  ];
}

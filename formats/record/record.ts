import {
  asFound,
  budgetOf,
  COVERAGE,
  digitsFor,
  familyOfPlan,
  fitOf,
  judge,
  lastPass,
  outcomeOf,
  planInForce,
  pointsOf,
  signalDigitsFor,
  spanOf,
  standardAt,
  stepIn,
  type Capture,
  type DecisionAction,
  type KeptCapture,
  type RunEvent,
  type RunState,
} from '@frustum/core';
import { eventWords } from './event-words.ts';

/** What a record names besides the run itself. */
export interface RecordOf {
  readonly runId: string;
  readonly siteName: string;
  readonly place: string;
  readonly serial: string;
  readonly state: RunState;
  readonly events: readonly RunEvent[];
  /** pictures of displays, as data URLs, by their id */
  readonly photos: Readonly<Record<string, string>>;
}

/** A piece of a document, as the PDF library takes it: plain data. */
export type Piece = Readonly<Record<string, unknown>> | string;

const ACTIONS: Record<DecisionAction, string> = {
  leave: 'left as it is',
  adjust: 'adjusted',
  'clean-and-retest': 'cleaned and tested again',
  investigate: 'to be investigated',
  replace: 'to be replaced',
  'go-on': 'gone on to the other standards',
};
const SITE_FIRST =
  'Local codes, site rules and the makers’ data sheets come first. Limits named here are common practice unless a source is named.';

const fixed = (value: number | null | undefined, digits: number) =>
  value === null || value === undefined || !Number.isFinite(value)
    ? '–'
    : `${value < 0 && Number(value.toFixed(digits)) !== 0 ? '−' : ''}${Math.abs(value).toFixed(digits)}`;
const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const signed = (value: number, digits: number) => (value > 0 ? '+' : '') + fixed(value, digits);
/** In UTC, so that two readers in two zones read one thing. */
const timeOf = (iso: string) => `${iso.slice(0, 10)} ${iso.slice(11, 16)} UTC`;

/**
 * The printable record of a run with everything that it rests on: plan, gates, captures with their traces, verdict with
 * its reasons, uncertainty budget, adjustment, pictures, and the events that all of it is replayed from.
 *
 * @returns the document as plain data for the PDF library; nothing of it is executed
 */
export function recordOf(of: RecordOf): Readonly<Record<string, unknown>> {
  const { state, runId } = of;
  return {
    pageSize: 'A4',
    pageMargins: [42, 42, 42, 54],
    defaultStyle: { font: 'Roboto', fontSize: 9.5, lineHeight: 1.15 },
    styles: { h1: { fontSize: 17, bold: true }, h2: { fontSize: 11.5, bold: true, margin: [0, 12, 0, 4] } },
    info: { title: `Record of a run, ${state.plan.loopName}, ${state.startedAt.slice(0, 10)}` },
    footer: footer(runId, state.seq),
    content: [...head(of), ...standing(state), ...measured(state), ...found(state), ...witnesses(of), ...history(of)],
  };
}

const footer = (runId: string, seq: number) => (page: number, pages: number) => ({
  margin: [42, 10, 42, 0],
  fontSize: 7.5,
  color: '#555555',
  columns: [
    { text: `Run ${runId}, replayed from ${seq} events. ${SITE_FIRST}`, width: '*' },
    { text: `${page} of ${pages}`, width: 50, alignment: 'right' },
  ],
});

const table = (widths: readonly (string | number)[], rows: readonly (readonly Piece[])[], headed = true): Piece => ({
  table: { headerRows: headed ? 1 : 0, widths: [...widths], body: rows.map((r) => [...r]) },
  layout: 'lightHorizontalLines',
});
const pairs = (rows: readonly (readonly [string, string])[]): Piece =>
  table(
    [120, '*'],
    rows.filter(([, value]) => value !== ''),
    false,
  );
const h2 = (text: string): Piece => ({ text, style: 'h2' });
const list = (items: readonly string[]): Piece[] => (items.length ? [{ ul: [...items] }] : []);

function head({ state, siteName, place, serial }: RecordOf): Piece[] {
  const { plan } = state;
  const { family, model } = familyOfPlan(plan);
  const { school, procedure } = plan;
  const schoolWords = {
    statistical: 'by forecast of what is still to come',
    'fixed-time': `by the clock, ${'seconds' in school ? school.seconds : 0} s`,
    'hand-count': `by count, ${'seconds' in school ? school.seconds : 0} s unmoved`,
  }[school.kind];
  const settings = Object.entries(plan.settings ?? {}).map(
    ([key, value]) => `${family.settings[key]?.name ?? key} ${value}`,
  );
  return [
    { text: plan.loopName, style: 'h1' },
    {
      text: `Record of a run · ${[siteName, place].filter(Boolean).join(', ')}`,
      color: '#555555',
      margin: [0, 2, 0, 8],
    },
    pairs([
      ['sensor', [plan.sensorName, serial].filter(Boolean).join(', ')],
      ['measures', [family.name, ...settings].join(', ')],
      [
        'works at',
        `${plan.workingValue} ${model.valueUnit} ±${plan.tolerance}${family.id === 'electrical' ? ' % of span' : ''}, ${plan.workingC} °C`,
      ],
      ['controls', plan.controls],
      [
        'procedure',
        procedure ? `${procedure.name}${procedure.version ? `, version ${procedure.version}` : ''}` : 'Calibrate',
      ],
      ['captured', schoolWords],
      ['sensor was', plan.sensorState && plan.sensorState !== 'in-use' ? plan.sensorState.replace('-', ' ') : ''],
      ['surroundings', (plan.surroundings ?? []).join(', ')],
      ['begun', timeOf(state.startedAt)],
      ['ended', state.endedAt ? `${timeOf(state.endedAt)}, ${state.status}` : 'still going'],
      ['abandoned because', state.abandonedBecause ?? ''],
      [
        'hold',
        state.hold
          ? `on since ${timeOf(state.hold.since)}, ${state.hold.releasedAt ? `released ${timeOf(state.hold.releasedAt)}` : 'NOT RELEASED'}`
          : '',
      ],
    ]),
  ];
}

/** What stood open, was passed over, or looked odd. */
function standing(state: RunState): Piece[] {
  const items = [
    ...(state.plan.gates ?? []).map((g) => `${g.text} Begun all the same: ${g.because}`),
    ...state.skipped.map((s) => `Passed over: ${s.title}. ${s.because}`),
    ...state.warnings.map((w) => `${w.kept ? 'Kept in spite of: ' : 'Noticed: '}${w.warning}`),
    ...(state.disturbances ? [`Disturbed ${state.disturbances} times; each time it settled again.`] : []),
  ];
  return items.length ? [h2('Noted on the way'), ...list(items)] : [];
}

const PURPOSES: Record<Capture['purpose'], string> = {
  'as-found': 'as found',
  repeat: 'again',
  'read-back': 'read back',
  'as-left': 'as left',
};

/** Every capture with its bottle, and its trace as a small line. */
function measured(state: RunState): Piece[] {
  if (!state.captures.length) return [h2('Captures'), 'Nothing was captured.'];
  const { plan } = state;
  const { family, model } = familyOfPlan(plan);
  const rows = state.captures.map((c) => {
    const standard = standardAt(state, c.pass, c.pointIndex);
    const lot = plan.points[c.pointIndex]?.lot.label;
    const digits = standard ? signalDigitsFor(stepIn(plan, standard, standard.nominalAtC)) : 2;
    const known = standard && plan.points[c.pointIndex]?.role !== 'input';
    return [
      { stack: [standard?.name ?? '–', { text: lot ? `lot ${lot}` : '', color: '#555555', fontSize: 8 }] },
      `${PURPOSES[c.purpose]}${c.pass > 1 ? `, pass ${c.pass}` : ''}`,
      { text: `${fixed(c.signal, digits)} ±${fixed(COVERAGE * c.signalUncertainty, digits + 1)}`, alignment: 'right' },
      { text: `${fixed(c.temperatureC, 1)} °C`, alignment: 'right' },
      { text: known ? shownIn(state, c) : '–', alignment: 'right' },
      c.settledSeconds === null ? c.method : `${c.method}, ${Math.round(c.settledSeconds)} s`,
      traceOf(c),
    ];
  });
  const sources = [...new Set(plan.points.map((p) => `${p.standard.name}: ${p.standard.source}.`))];
  return [
    h2('Captures'),
    table(
      ['*', 46, 68, 36, 74, 44, 64],
      [
        [
          'standard',
          'look',
          `signal, ${model.signalUnit}`,
          'at',
          `shown, ${family.id === 'electrical' ? '' : model.valueUnit}`,
          'how',
          'trace',
        ],
        ...rows,
      ],
    ),
    { text: sources.join(' '), color: '#555555', fontSize: 8, margin: [0, 4, 0, 0] },
  ];
}

/** What the channel showed in it, against what it should have. */
function shownIn(state: RunState, capture: KeptCapture): string {
  const plan = planInForce(state);
  const standard = standardAt(state, capture.pass, capture.pointIndex);
  const { model } = familyOfPlan(plan);
  const inForce = capture.purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce;
  const { temperatureC, signal, signalUncertainty } = capture;
  try {
    const made = asFound(model, { standard: standard!, lotId: '', temperatureC, signal, signalUncertainty }, inForce);
    const digits = plan.family === 'electrical' ? 2 : digitsFor(plan.tolerance);
    return `${fixed(made.shown, digits)} for ${fixed(made.expected, digits)}`;
  } catch {
    return '–';
  }
}

function traceOf({ trace }: Capture): Piece {
  if (trace.length < 2) return '';
  const [width, height] = [62, 20];
  const values = trace.map((s) => s.signal);
  const low = Math.min(...values);
  const span = Math.max(...values) - low || 1;
  const end = trace.at(-1)!.t - trace[0]!.t || 1;
  const points = trace.map((s) => ({
    x: (width * (s.t - trace[0]!.t)) / end,
    y: height - (height * (s.signal - low)) / span,
  }));
  return { canvas: [{ type: 'polyline', lineWidth: 0.7, lineColor: '#0f5c66', points }] };
}

/** Verdict, what was decided, and the figures behind both. */
function found(state: RunState): Piece[] {
  const electrical = state.plan.procedure?.kind === 'electrical';
  const verdict = judge(state);
  const outcome = outcomeOf(state);
  const plan = planInForce(state);
  const { family, model } = familyOfPlan(plan);
  const digits = electrical ? 2 : digitsFor(plan.tolerance);
  const decided = state.decisions.map(
    (d) => `${timeOf(d.at)}: ${ACTIONS[d.action]}${d.because ? `, because ${d.because}` : ''}`,
  );
  const parts: Piece[] = [
    h2('Verdict'),
    { text: verdict?.sentence ?? 'No verdict: standards are missing.', bold: true },
  ];
  if (verdict) parts.push(...list(verdict.reasons.map((r) => r.text)));
  if (decided.length) parts.push({ text: 'Decided', margin: [0, 4, 0, 0] }, ...list(decided));
  if (electrical) return [...parts, ...spanRows(state)];
  const fit = fitOf(state);
  if (!fit.ok) return parts;
  const signalDigits = signalDigitsFor(family.step.absolute);
  const both = (c: { zero: number; sensitivity: number }) =>
    `${fixed(c.zero, signalDigits)} ${model.signalUnit}, ${fixed(100 * c.sensitivity, 1)} %`;
  const at = (e: { error: number; uncertainty: number }) =>
    `${signed(e.error, digits + 1)} ±${fixed(COVERAGE * e.uncertainty, digits + 1)} ${model.valueUnit} at ${plan.workingValue} (k = ${COVERAGE})`;
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
      ['read back', outcome?.readBackShown != null ? `${fixed(outcome.readBackShown, digits)} ${model.valueUnit}` : ''],
    ]),
  );
  return [...parts, ...budget(state)];
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
  const made = budgetOf(model, fit.whole, { value: plan.workingValue, temperatureC: plan.workingC, calibrationC });
  return [
    h2(`What the ± at ${plan.workingValue} ${made.unit} is made of`),
    table(
      ['*', 110, 110],
      [
        ['source', 'is known to (1 s.u.)', `gives, ${made.unit}`],
        ...made.rows.map((r) => [
          r.name,
          `${Number(r.uncertainty.toPrecision(2))} ${r.unit}`,
          String(Number(r.contribution.toPrecision(2))),
        ]),
        ['together', `×${Number(made.coverageFactor.toPrecision(3))}`, String(Number(made.expanded.toPrecision(2)))],
      ],
    ),
  ];
}

function witnesses({ state, photos }: RecordOf): Piece[] {
  const kept = state.photos.filter((p) => photos[p.photoId]);
  return [
    ...(state.notes.length
      ? [h2('Notes'), ...list(state.notes.map((n) => `${timeOf(n.at)}, ${n.by}: ${n.text}`))]
      : []),
    ...(kept.length
      ? [
          h2('Pictures of the display'),
          ...kept.map((p): Piece => ({
            columns: [
              { image: photos[p.photoId], fit: [150, 110], width: 160 },
              { text: `${timeOf(p.at)}, ${p.by}. Read as: ${p.typed || 'nothing typed'}`, margin: [0, 4, 0, 0] },
            ],
            margin: [0, 0, 0, 6],
          })),
        ]
      : []),
  ];
}

function history({ events }: RecordOf): Piece[] {
  return [
    h2('Events'),
    {
      ...(table(
        [24, 96, 70, '*'],
        [
          ['no.', 'when', 'who', 'what'],
          ...events.map((e) => [String(e.seq), `${e.at.slice(0, 10)} ${e.at.slice(11, 19)}`, e.by, eventWords(e.body)]),
        ],
      ) as object),
      fontSize: 8,
    },
  ];
}

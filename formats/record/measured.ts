import {
  asFound,
  COVERAGE,
  familyOfPlan,
  planInForce,
  signalDigitsFor,
  standardAt,
  writtenOfPlan,
  stepIn,
  type Capture,
  type KeptCapture,
  type RunState,
} from '@frustum/core';
import { fixed, h2, table, type Piece } from './paper.ts';

const PURPOSES: Record<Capture['purpose'], string> = {
  'as-found': 'as found',
  repeat: 'again',
  'read-back': 'read back',
  'as-left': 'as left',
};

/** Every capture with its bottle, and its trace as a small line. */
export function measured(state: RunState): Piece[] {
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
          `shown, ${family.id === 'electrical' ? '' : writtenOfPlan(plan).unit}`,
          'how',
          'trace',
        ],
        ...rows,
      ],
    ),
    { text: sources.join(' '), color: '#555555', fontSize: 8, margin: [0, 4, 0, 0] },
    { text: traceable(state), margin: [0, 4, 0, 0] },
  ];
}

/** On what the values of this run rest, in a sentence: bottles with their ±, the thermometer in the cups; and what they do not. */
function traceable({ plan, captures }: RunState): string {
  const bottles = plan.points
    .filter((p) => p.role !== 'input' && p.standard.uncertainty > 0)
    .map(({ standard, lot }) => {
      const half = Number((COVERAGE * standard.uncertainty).toPrecision(2));
      return `${standard.name}${lot.label ? ` lot ${lot.label}` : ', no lot noted'} ±${half} ${standard.unit ?? 'pH'}`;
    });
  const own = captures.length > 0 && captures.every((c) => c.method === 'live' || c.method === 'trace');
  const thermometer = own ? 'the thermometer of the loop' : 'the thermometer in the cups';
  if (!bottles.length) return '';
  return `Traceability: the values rest on ${[...new Set(bottles)].join(', ')} (k = ${COVERAGE}), as far as their certificates reach, and on ${thermometer}. A standard without a lot is traceable to nobody, and this record is no accredited certificate.`;
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
    const written = writtenOfPlan(plan);
    const at = (value: number) => fixed(written.value(value, { temperatureC }), written.valueDigits);
    return `${at(made.shown)} for ${at(made.expected)}`;
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

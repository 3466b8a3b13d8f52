import {
  CONDITIONS,
  conditionWords,
  COVERAGE,
  familyOfPlan,
  oddRecord,
  signalDigitsFor,
  writtenOfPlan,
  type RunEvent,
  type RunState,
} from '@frustum/core';
import { eventWords } from './event-words.ts';
import { found } from './found.ts';
import { measured } from './measured.ts';
import { fixed, h2, list, pairs, table, timeOf, type Piece } from './paper.ts';

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

const SITE_FIRST =
  'Local codes, site rules and the makers’ data sheets come first. Limits named here are common practice unless a source is named.';

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

function head({ state, siteName, place, serial }: RecordOf): Piece[] {
  const { plan } = state;
  const { family } = familyOfPlan(plan);
  const written = writtenOfPlan(plan);
  const { school, procedure } = plan;
  const schoolWords = {
    statistical: 'by forecast of what is still to come',
    'fixed-time': `by the clock, ${'seconds' in school ? school.seconds : 0} s`,
    'hand-count': `by count, ${'seconds' in school ? school.seconds : 0} s unmoved`,
  }[school.kind];
  const settings = Object.entries(plan.settings ?? {}).flatMap(
    // Conditions stand in a line of their own.
    ([key, value]) => (key in CONDITIONS ? [] : `${family.settings[key]?.name ?? key} ${value}`),
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
        `${written.worksAt} ${written.unit} ±${family.id === 'electrical' ? `${plan.tolerance} % of span` : Number(written.size(plan.tolerance).toPrecision(3))}, ${plan.workingC} °C`,
      ],
      ['controls', plan.controls],
      ['expected before it', expectedOf(state)],
      [
        'procedure',
        procedure ? `${procedure.name}${procedure.version ? `, version ${procedure.version}` : ''}` : 'Calibrate',
      ],
      ['captured', plan.fromPaper ? 'typed in later from a paper logbook, counted with a wider ±' : schoolWords],
      ['sensor was', plan.sensorState && plan.sensorState !== 'in-use' ? plan.sensorState.replace('-', ' ') : ''],
      ['conditions', (plan.conditions ?? []).map(conditionWords).join('; ')],
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

/** What its history led one to expect, and who said so: a prediction that a later engine would make otherwise can be explained. */
function expectedOf({ plan }: RunState): string {
  const { zero, zeroSd, sensitivity, sensitivitySd } = plan.expected;
  if (!plan.expectedBy) return '';
  const { family, model } = familyOfPlan(plan);
  const digits = signalDigitsFor(family.step.absolute);
  const { version, fleet } = plan.expectedBy;
  const { sensors, runs } = fleet;
  const from = sensors ? `learned from ${runs} runs of ${sensors} sensors` : 'by common practice of the family';
  return `${fixed(zero, digits)} ±${fixed(COVERAGE * zeroSd, digits)} ${model.signalUnit}, ${fixed(100 * sensitivity, 1)} ±${fixed(100 * COVERAGE * sensitivitySd, 1)} % (drift engine ${version}, ${from})`;
}

/** What stood open, was passed over, or looked odd. */
function standing(state: RunState): Piece[] {
  const items = [
    ...(state.plan.gates ?? []).map((g) => `${g.text} Begun all the same: ${g.because}`),
    ...state.skipped.map((s) => `Passed over: ${s.title}. ${s.because}`),
    ...state.warnings.map((w) => `${w.kept ? 'Kept in spite of: ' : 'Noticed: '}${oddRecord(w.odd, w.kept)}`),
    ...(state.disturbances ? [`Disturbed ${state.disturbances} times; each time it settled again.`] : []),
  ];
  return items.length ? [h2('Noted on the way'), ...list(items)] : [];
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

function history({ events, state }: RecordOf): Piece[] {
  const { signalUnit } = familyOfPlan(state.plan).model;
  return [
    h2('Events'),
    {
      ...(table(
        [24, 96, 70, '*'],
        [
          ['no.', 'when', 'who', 'what'],
          ...events.map((e) => [
            String(e.seq),
            `${e.at.slice(0, 10)} ${e.at.slice(11, 19)}`,
            e.by,
            eventWords(e.body, signalUnit),
          ]),
        ],
      ) as object),
      fontSize: 8,
    },
  ];
}

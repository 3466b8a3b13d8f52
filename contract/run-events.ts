import { array, boolean, lazy, mixed, number, object, string, type Schema } from 'yup';
import { among } from './alternatives.ts';
import { finite, MAX_SIGNAL, moment, readable, trimmed, words } from './fields.ts';
import {
  areFactsOf,
  CAPTURE_METHODS,
  CAPTURE_PURPOSES,
  DECISION_ACTIONS,
  inTodaysWords,
  ODD_IDS,
  type Entry,
  type Odd,
  type RunEventBody,
} from '@frustum/core';

const stepId = () => string().required().max(60);
const onTrace = {
  traceSeconds: number().nullable().default(null),
  traceEpoch: string().nullable().max(60).default(null),
};
const iso = () => moment('The time is not ISO 8601.');
/** One of a core's tuple. */
const oneOf = <const T extends string>(values: readonly T[]) => string<T>().oneOf(values).required();
const is = <const T extends string>(value: T, message?: string) => string<T>().oneOf([value], message).required();

const sampleSchema = object({
  t: finite(),
  signal: finite().min(-MAX_SIGNAL).max(MAX_SIGNAL),
  temperatureC: finite().min(-20).max(150),
});

const captureSchema = object({
  pointIndex: finite().integer().min(0).max(4),
  purpose: oneOf(CAPTURE_PURPOSES),
  method: oneOf(CAPTURE_METHODS),
  // Whatever the family's unit is; what its own sensor cannot give, the core refuses by name.
  signal: finite().min(-MAX_SIGNAL).max(MAX_SIGNAL),
  signalUncertainty: finite().min(0).max(MAX_SIGNAL),
  temperatureC: finite()
    .min(-5, '${value} °C is below −5 °C. Check the thermometer and its unit.')
    .max(110, '${value} °C is above 110 °C. Is it °F?'),
  settledSeconds: number().nullable().default(null),
  t90: number().nullable().default(null),
  sampledAt: iso().nullable().default(null),
  trace: array(sampleSchema.required()).max(600).default([]),
});

const coefficientsSchema = object({
  zero: finite().min(-MAX_SIGNAL).max(MAX_SIGNAL),
  sensitivity: finite().min(0.01).max(20),
});

const thermometerSchema = object({
  temperatureC: finite().min(-50).max(250),
  plusMinusC: finite().min(0.001).max(10),
}).noUnknown();

/** A value from elsewhere: of a sample, or of two thermometers. */
const ENTRIES = {
  sample: object({
    kind: is('sample', '“${value}” is nothing that can be entered.'),
    value: finite(),
    unit: string().max(60, 'The unit is too long.').required('The unit is missing.'),
    plusMinus: finite().moreThan(0, 'The ± is above 0. Type what the lab or the kit states.'),
    temperatureC: finite().min(-5).max(110, '${value} °C is above 110 °C. Is it °F?'),
  }).noUnknown(),
  thermometers: object({
    kind: is('thermometers'),
    a: thermometerSchema.required(),
    b: thermometerSchema.required(),
  }).noUnknown(),
} satisfies { readonly [K in Entry['kind']]: Schema<Extract<Entry, { kind: K }>> };
const entrySchema = among(
  lazy((value: unknown): Schema<Entry> =>
    (value as { kind?: unknown } | null)?.kind === 'thermometers' ? ENTRIES.thermometers : ENTRIES.sample,
  ),
  Object.values(ENTRIES),
);

/** A code with the facts of it: plain figures and short texts by name, since a sentence is made of nothing else. */
const MAX_FACTS = 10;
const oddSchema = object({
  id: oneOf(ODD_IDS),
  facts: lazy((given: unknown) =>
    object(
      Object.fromEntries(
        Object.entries((given ?? {}) as Record<string, unknown>).map(([key, value]) => [
          key,
          typeof value === 'number' ? finite() : typeof value === 'boolean' ? boolean().required() : words(300),
        ]),
      ),
    )
      .noUnknown()
      .test('few', `Facts are ${MAX_FACTS} at most.`, (facts) => Object.keys(facts).length <= MAX_FACTS)
      .test('whole', 'These are not the facts of “${path}”.', (facts, { parent }) =>
        areFactsOf((parent as { id?: unknown }).id, facts),
      ),
  ),
  // `whole` has looked: a code has its own facts.
}).noUnknown() as unknown as Schema<Odd>;

type SentType = Exclude<RunEventBody['type'], 'started'>;
/** One event of a type, as a browser sends it. */
type Sent<T extends SentType> = Extract<RunEventBody, { readonly type: T }>;

/** Bodies that a client may send, each checked against the type that the core has for it. `started` is not among them: the server writes it. */
const BODIES = {
  'step-done': object({ type: is('step-done'), stepId: stepId(), ...onTrace }).noUnknown(),
  'step-reopened': object({ type: is('step-reopened'), stepId: stepId(), ...onTrace }).noUnknown(),
  disturbed: object({ type: is('disturbed'), stepId: stepId(), ...onTrace, noticed: boolean().required() }).noUnknown(),
  captured: object({
    type: is('captured'),
    stepId: stepId(),
    capture: captureSchema.required(),
    ...onTrace,
  }).noUnknown(),
  entered: object({ type: is('entered'), stepId: stepId(), entry: entrySchema, ...onTrace }).noUnknown(),
  skipped: object({
    type: is('skipped'),
    stepId: stepId(),
    because: words(300).required('Say why, in a few words.'),
    ...onTrace,
  }).noUnknown(),
  photographed: object({
    type: is('photographed'),
    photoId: string().uuid().required(),
    stepId: stepId(),
    typed: words(60).default(''),
  }).noUnknown(),
  warned: object({ type: is('warned'), stepId: stepId(), odd: oddSchema, kept: boolean().required() })
    // A page that was open while Frustum was renewed still says it in a sentence.
    .transform((value: unknown) => inTodaysWords(value as Sent<'warned'>))
    .noUnknown(),
  noted: object({ type: is('noted'), text: words(2000).required('Type the note first.') }).noUnknown(),
  'hold-released': object({ type: is('hold-released') }).noUnknown(),
  decided: object({
    type: is('decided'),
    action: oneOf(DECISION_ACTIONS),
    because: words(500).default(''),
  }).noUnknown(),
  adjusted: object({
    type: is('adjusted'),
    coefficients: coefficientsSchema.required(),
    how: oneOf(['written', 'entered-by-hand'] as const),
  }).noUnknown(),
  'adjustment-refused': object({
    type: is('adjustment-refused'),
    message: words(300).required('Type what the instrument says.'),
    shows: coefficientsSchema.nullable().default(null),
  }).noUnknown(),
  closed: object({ type: is('closed') }).noUnknown(),
  abandoned: object({ type: is('abandoned'), because: words(500).required('Say why, in a few words.') }).noUnknown(),
} satisfies { readonly [T in SentType]: Schema<Sent<T>> };

const isSent = (type: unknown): type is SentType => typeof type === 'string' && Object.hasOwn(BODIES, type);

const bodySchema = among(
  lazy((value: unknown): Schema<Sent<SentType>> => {
    const type = (value as { type?: unknown } | null)?.type;
    if (isSent(type)) return BODIES[type];
    return mixed<Sent<SentType>>()
      .required()
      .test('type', `“${String(type).slice(0, 40)}” is no event that a bench can send.`, () => false);
  }),
  Object.values(BODIES),
);

/** More than any device ever sends: what the database counts to. */
const MAX_EVENTS = 2_147_483_647;

/** Events as a device sends them: numbered by itself, so that a retry counts once. */
export const appendEventsSchema = object({
  events: array(
    object({
      device: string().required().min(8).max(64),
      counter: finite().integer().min(1).max(MAX_EVENTS),
      at: iso().required(),
      /** for decisions: the sequence number that was on screen */
      onSeq: number().integer().nullable().default(null),
      /** who did it, by the name that was chosen in the bar; '' = as the request says */
      by: readable('The name').transform(trimmed).max(40, 'Shorten the name to 40 characters.').default(''),
      body: bodySchema,
    }).noUnknown(),
  )
    .min(1)
    .max(200)
    .required(),
}).noUnknown();

/** One event on its way to the server. */
export interface OutgoingEvent {
  readonly device: string;
  readonly counter: number;
  readonly at: string;
  readonly onSeq: number | null;
  readonly by?: string;
  readonly body: Exclude<RunEventBody, { type: 'started' }>;
}

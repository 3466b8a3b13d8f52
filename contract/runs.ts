import {
  array,
  boolean,
  lazy,
  mixed,
  number,
  object,
  string,
  type InferType,
  type NumberSchema,
  type Schema,
} from 'yup';
import { among } from './alternatives.ts';
import { moment, words } from './fields.ts';
import {
  areFactsOf,
  CAPTURE_METHODS,
  CAPTURE_PURPOSES,
  CONDITIONS,
  DECISION_ACTIONS,
  inTodaysWords,
  ODD_IDS,
  PROCEDURE_KINDS,
  SENSOR_STATES,
  SERVICE_KINDS,
  UNITS,
  type ConditionName,
  type Entry,
  type LotId,
  type Odd,
  type ProcedureKind,
  type RunEventBody,
  type SensorId,
  type SensorState,
  type ServiceEvent,
} from '@frustum/core';

const finite = () =>
  number()
    .required()
    .test('finite', '${path} is not a figure', (v) => Number.isFinite(v));
const stepId = () => string().required().max(60);
const onTrace = {
  traceSeconds: number().nullable().default(null),
  traceEpoch: string().nullable().max(60).default(null),
};
const iso = () => moment('The time is not ISO 8601.');
/** One of a core's tuple. */
const oneOf = <const T extends string>(values: readonly T[]) => string<T>().oneOf(values).required();
const is = <const T extends string>(value: T, message?: string) => string<T>().oneOf([value], message).required();

/** More than any sensor gives, in any unit: 5 S of sea water in µS. */
const MAX_SIGNAL = 5_000_000;

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
    unit: oneOf(UNITS),
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
  readonly body: Exclude<RunEventBody, { type: 'started' }>;
}

export const startRunSchema = object({
  sensorId: string<SensorId>().uuid().required(),
  procedure: string<ProcedureKind>().oneOf(PROCEDURE_KINDS).default('calibrate'),
  /** a team's own; null = the built-in one */
  procedureId: string().uuid().nullable().default(null),
  sensorState: string<SensorState>().oneOf(SENSOR_STATES).default('in-use'),
  points: array(
    object({
      standardId: string().required().max(80),
      lotId: string<LotId>().uuid().nullable().default(null),
    }).noUnknown(),
  )
    .max(5, 'Five standards at most.')
    .default([]),
  /** for an electrical check: what each box stands for, in the unit of the channel */
  boxes: array(
    object({
      label: words(40).required('A box needs a name.'),
      applied: finite().min(-MAX_SIGNAL).max(MAX_SIGNAL),
      use: string<'adjust' | 'verify'>().oneOf(['adjust', 'verify']).required(),
    }).noUnknown(),
  )
    .max(5, 'Five boxes at most.')
    .default([]),
  /** conditions as they are typed for this run; what is not there comes from another loop, or from the set-up */
  conditions: object(
    Object.fromEntries((Object.keys(CONDITIONS) as ConditionName[]).map((name) => [name, number().typeError(`The ${CONDITIONS[name].name} is not a figure.`)])) as Record<ConditionName, NumberSchema<number | undefined>>, // prettier-ignore
  )
    .noUnknown()
    .default({}),
  /** limit of an electrical check, % of span */
  limitPercent: finite().min(0.01).max(20).default(0.5),
  school: string<'statistical' | 'fixed-time' | 'hand-count'>()
    .oneOf(['statistical', 'fixed-time', 'hand-count'])
    .required(),
  fixedSeconds: finite().integer().min(5, 'Wait at least 5 s.').max(3600, 'Wait at most an hour.').default(120),
  /** gates that stand open, and why the run begins all the same */
  overrides: array(
    object({ id: string().required().max(120), because: words(300).required('Say why, in a few words.') }).noUnknown(),
  )
    .max(20)
    .default([]),
}).noUnknown();
export type StartRun = InferType<typeof startRunSchema>;

/** What may be done to a sensor outside of a run. */
export const SERVICES = SERVICE_KINDS;

export const serviceSchema = object({
  kind: string<ServiceEvent['kind']>().oneOf(SERVICES).required('Say what was done.'),
  note: words(500).default(''),
  /** when, if not just now */
  at: moment('Give day and time.').optional(),
}).noUnknown();
export type NewService = InferType<typeof serviceSchema>;

/** An entry of the service log that is taken back. */
export const takeBackSchema = object({
  at: moment('Give day and time.').required(),
  kind: string().oneOf(SERVICES).required(),
}).noUnknown();
export type TakeBack = InferType<typeof takeBackSchema>;

const ownWordsSchema = object({ title: words(80).optional(), text: words(600).optional() }).noUnknown();
export const PROCEDURE_STEPS = [
  'hold',
  'take-out',
  'place',
  'settle',
  'repeat',
  'clean',
  'adjust',
  'read-back',
  'return',
] as const;

/** A team's own procedure; `version` is the one that was on screen, 0 for a new one. */
export const procedureSchema = object({
  version: finite().integer().min(0),
  family: string().required().max(40),
  kind: string<ProcedureKind>().oneOf(PROCEDURE_KINDS).required(),
  name: words(60).required('The name is missing. Type a plain, unique name.'),
  points: array(string().required().max(80)).max(5, 'Five standards at most.').default([]),
  school: string<'statistical' | 'fixed-time' | 'hand-count' | ''>()
    .oneOf(['statistical', 'fixed-time', 'hand-count', ''])
    .default(''),
  seconds: number().integer().min(5).max(3600).nullable().default(null),
  words: lazy((value: unknown) =>
    object(
      Object.fromEntries(
        PROCEDURE_STEPS.filter((key) => Object.hasOwn(value ?? {}, key)).map((key) => [key, ownWordsSchema]),
      ),
    ).noUnknown(),
  ),
  extra: array(
    object({
      after: string()
        .oneOf([...PROCEDURE_STEPS])
        .required(),
      title: words(80).required('An extra step needs a title.'),
      text: words(600).default(''),
    }).noUnknown(),
  )
    .max(10, 'Ten extra steps at most.')
    .default([]),
  retired: boolean().default(false),
}).noUnknown();
export type ProcedureInput = InferType<typeof procedureSchema>;

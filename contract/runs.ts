import { array, boolean, lazy, mixed, number, object, string, type InferType, type Schema } from 'yup';
import type { RunEventBody } from '@frustum/core';

const finite = () =>
  number()
    .required()
    .test('finite', '${path} is not a figure', (v) => Number.isFinite(v));
const words = (most: number) => string().trim().max(most, 'Shorten it to ${max} characters.');
const stepId = () => string().required().max(60);
const traceSeconds = () => number().nullable().default(null);

const sampleSchema = object({
  t: finite(),
  signal: finite().min(-3000).max(3000),
  temperatureC: finite().min(-20).max(150),
});

const captureSchema = object({
  pointIndex: finite().integer().min(0).max(4),
  purpose: string().oneOf(['as-found', 'repeat', 'read-back']).required(),
  method: string().oneOf(['live', 'typed', 'trace']).required(),
  signal: finite()
    .min(-2000, 'No pH electrode gives ${value} mV. Check the unit.')
    .max(2000, 'No pH electrode gives ${value} mV. Check the unit.'),
  signalUncertainty: finite().min(0).max(1000),
  temperatureC: finite()
    .min(-5, '${value} °C is below −5 °C. Check the thermometer and its unit.')
    .max(110, '${value} °C is above 110 °C. Is it °F?'),
  settledSeconds: number().nullable().default(null),
  t90: number().nullable().default(null),
  trace: array(sampleSchema.required()).max(600).default([]),
});

const coefficientsSchema = object({ zero: finite().min(-500).max(500), sensitivity: finite().min(0.05).max(2) });

/** Bodies that a client may send. `started` is not among them: the server writes it. */
const BODIES: Readonly<Record<string, Schema>> = {
  'step-done': object({ type: string().required(), stepId: stepId(), traceSeconds: traceSeconds() }).noUnknown(),
  'step-reopened': object({ type: string().required(), stepId: stepId(), traceSeconds: traceSeconds() }).noUnknown(),
  disturbed: object({
    type: string().required(),
    stepId: stepId(),
    traceSeconds: finite(),
    noticed: boolean().required(),
  }).noUnknown(),
  captured: object({
    type: string().required(),
    stepId: stepId(),
    capture: captureSchema.required(),
    traceSeconds: traceSeconds(),
  }).noUnknown(),
  warned: object({
    type: string().required(),
    stepId: stepId(),
    warning: words(300).required(),
    kept: boolean().required(),
  }).noUnknown(),
  noted: object({ type: string().required(), text: words(2000).required('Type the note first.') }).noUnknown(),
  'hold-released': object({ type: string().required() }).noUnknown(),
  decided: object({
    type: string().required(),
    action: string().oneOf(['leave', 'adjust', 'clean-and-retest', 'replace']).required(),
    because: words(500).default(''),
  }).noUnknown(),
  adjusted: object({
    type: string().required(),
    coefficients: coefficientsSchema.required(),
    how: string().oneOf(['written', 'entered-by-hand']).required(),
  }).noUnknown(),
  closed: object({ type: string().required() }).noUnknown(),
  abandoned: object({
    type: string().required(),
    because: words(500).required('Say why, in a few words.'),
  }).noUnknown(),
};

const bodySchema = lazy((value: unknown) => {
  const type = (value as { type?: unknown } | null)?.type;
  return (
    (typeof type === 'string' && Object.hasOwn(BODIES, type) ? BODIES[type] : undefined) ??
    mixed().test('type', `“${String(type).slice(0, 40)}” is no event that a bench can send.`, () => false)
  );
});

/** Events as a device sends them: numbered by itself, so that a retry counts once. */
export const appendEventsSchema = object({
  events: array(
    object({
      device: string().required().min(8).max(64),
      counter: finite().integer().min(1),
      at: string()
        .required()
        .test('iso', 'The time is not ISO 8601.', (v) => Number.isFinite(Date.parse(v))),
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
  sensorId: string().uuid().required(),
  points: array(
    object({ standardId: string().required().max(80), lotId: string().uuid().nullable().default(null) }).noUnknown(),
  )
    .min(2, 'Pick two standards at least: a slope needs two.')
    .max(3)
    .required(),
  school: string().oneOf(['statistical', 'fixed-time']).required(),
  fixedSeconds: finite().integer().min(30, 'Wait at least 30 s.').max(900, 'Wait at most 900 s.').default(120),
}).noUnknown();
export type StartRun = InferType<typeof startRunSchema>;

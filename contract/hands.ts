import { boolean, number, object, string, type InferType } from 'yup';

const ACTIONS = [
  'move',
  'wiggle',
  'blot',
  'tap',
  'clean',
  'refill',
  'soak',
  'plug',
  'unplug',
  'fault',
  'clock',
  'clock-jump',
  'status',
] as const;
type Action = (typeof ACTIONS)[number];

/** What the stand-in's hands may do. Names of places and faults are the stand-in's own; it refuses what it has not. */
export const handsSchema = object({
  action: string<Action>()
    .oneOf([...ACTIONS])
    .required(),
  place: string()
    .max(40)
    .when('action', { is: 'move', then: (s) => s.required() }),
  /** into the cup that stands there, not into a fresh one */
  again: boolean(),
  rate: number()
    .min(1)
    .max(30)
    .when('action', { is: 'clock', then: (s) => s.required() }),
  /** what a box or a shorting plug puts in, mV or µS; or a status */
  value: number()
    .min(-3000, 'The box goes down to −3000.')
    .max(1e6, 'The box goes up to 1 000 000.')
    .when('action', {
      is: (a: string) => a === 'plug' || a === 'status',
      then: (s) => s.required('Say what the box is set to.'),
    }),
  fault: string()
    .max(40)
    .when('action', { is: 'fault', then: (s) => s.required() }),
  severity: number()
    .min(0)
    .max(1)
    .when('action', { is: 'fault', then: (s) => s.required() }),
  seconds: number()
    .min(-1e8)
    .max(1e8)
    .when('action', { is: 'clock-jump', then: (s) => s.required() }),
}).noUnknown();
export type Hands = InferType<typeof handsSchema>;

import { object, string, type InferType } from 'yup';
import { SIGNAL_UNITS, UNIT_LIST, type SignalUnit } from '../signals.ts';
import type { WireKind } from './kind.ts';
import { about } from './parts.ts';

/** A display that is read and typed. */
const schema = object({
  kind: string<'hand'>().oneOf(['hand']).required(),
  /** what is typed; '' in records from before: mV. At the bench it is typed in any unit of its family */
  quantity: string<SignalUnit | ''>()
    .oneOf([...SIGNAL_UNITS, ''], `What is typed is one of ${UNIT_LIST}.`)
    .default(''),
  ...about,
}).noUnknown();

export type HandConfig = InferType<typeof schema>;

export const hand: WireKind<HandConfig> = {
  schema,
  reads: 'hand',
  unit: ({ quantity }) => quantity || 'mV',
  staleSeconds: () => null,
};

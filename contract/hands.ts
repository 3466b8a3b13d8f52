import { number, object, string, type InferType } from 'yup';

/** What the stand-in's hands may do. */
export const handsSchema = object({
  action: string().oneOf(['move', 'wiggle', 'clock']).required(),
  liquid: string()
    .max(20)
    .when('action', { is: 'move', then: (s) => s.required() }),
  rate: number()
    .min(1)
    .max(30)
    .when('action', { is: 'clock', then: (s) => s.required() }),
}).noUnknown();
export type Hands = InferType<typeof handsSchema>;

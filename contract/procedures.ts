import { PROCEDURE_KINDS, type ProcedureKind } from '@frustum/core';
import { array, boolean, lazy, number, object, string, type InferType } from 'yup';
import { finite, words } from './fields.ts';

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

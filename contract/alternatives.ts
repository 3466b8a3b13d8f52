import type { ISchema } from 'yup';

/** What a schema that looks at its value first may turn out to be: it cannot say so itself. */
const ALTERNATIVES = new WeakMap<object, readonly ISchema<unknown>[]>();

/** Notes it, for the document of the API. */
export function among<S extends object>(schema: S, of: readonly ISchema<unknown>[]): S {
  ALTERNATIVES.set(schema, of);
  return schema;
}

/** One of these; undefined for a schema that says by itself what it is. */
export const alternativesOf = (schema: object): readonly ISchema<unknown>[] | undefined => ALTERNATIVES.get(schema);

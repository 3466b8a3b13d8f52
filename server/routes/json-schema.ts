import { isSchema, type ISchema, type Schema } from 'yup';
import { alternativesOf } from '@frustum/contract';

/** A JSON Schema (2020-12), as far as one is written here. */
export type JsonSchema = Readonly<Record<string, unknown>>;

interface Described {
  readonly type: string;
  readonly optional: boolean;
  readonly nullable: boolean;
  readonly default?: unknown;
  readonly oneOf: readonly unknown[];
  readonly tests: readonly {
    readonly name?: string | undefined;
    readonly params?: Readonly<Record<string, unknown>> | undefined;
  }[];
}

/** What a test of Yup is in JSON Schema; what has no word there stays with the server. */
function limitsOf({ type, tests }: Described): JsonSchema {
  const [least, most] = { string: ['minLength', 'maxLength'], array: ['minItems', 'maxItems'] }[type] ?? ['minimum', 'maximum']; // prettier-ignore
  return Object.assign(
    {},
    ...tests.map(({ name, params = {} }): JsonSchema => {
      if (name === 'min') return 'more' in params ? { exclusiveMinimum: params['more'] } : { [least!]: params['min'] };
      if (name === 'max') return { [most!]: params['max'] };
      if (name === 'uuid') return { format: 'uuid' };
      if (name === 'moment') return { format: 'date-time' };
      if (name === 'day') return { format: 'date' };
      return {};
    }),
  ) as JsonSchema;
}

/** Its parts: of an object, a list, or a tuple. */
function partsOf(schema: Schema): JsonSchema {
  if ('fields' in schema) {
    const fields = Object.entries(schema.fields as Readonly<Record<string, ISchema<unknown>>>);
    const closed = (schema.describe() as unknown as Described).tests.some((t) => t.name === 'noUnknown');
    const required = fields.flatMap(([name, of]) => (isRequired(of) ? [name] : []));
    return {
      properties: Object.fromEntries(fields.map(([name, of]) => [name, jsonSchemaOf(of)])),
      ...(required.length ? { required } : {}),
      ...(closed ? { additionalProperties: false } : {}),
    };
  }
  const types = schema.type === 'tuple' && (schema.spec as { types?: readonly ISchema<unknown>[] }).types;
  if (types) return { prefixItems: types.map(jsonSchemaOf), minItems: types.length, maxItems: types.length };
  const inner = (schema as { innerType?: ISchema<unknown> }).innerType;
  return inner ? { items: jsonSchemaOf(inner) } : {};
}

const isRequired = (schema: ISchema<unknown>): boolean => {
  if (alternativesOf(schema)) return true;
  if (!isSchema(schema) || !('spec' in schema)) return false;
  const { optional, default: usual } = (schema as Schema).describe() as unknown as Described;
  return !optional && usual === undefined;
};

/**
 * A schema of a body as JSON Schema, for the document of the API. It says what can be said there; a text or a figure is checked
 * further by the server.
 *
 * @example jsonSchemaOf(string().oneOf(['a'])).enum // ['a']
 */
export function jsonSchemaOf(schema: ISchema<unknown>): JsonSchema {
  const alternatives = alternativesOf(schema);
  if (alternatives) return { anyOf: alternatives.map(jsonSchemaOf) };
  // What looks at its value first is an object by whatever names.
  if (!('describe' in schema) || (schema as { type?: string }).type === 'lazy' || !('spec' in schema))
    return { type: 'object' };
  const of = (schema as Schema).describe() as unknown as Described;
  const type = of.type === 'tuple' ? 'array' : of.type;
  const kind = type === 'mixed' ? {} : { type: of.nullable ? [type, 'null'] : type };
  const integer = of.tests.some((t) => t.name === 'integer');
  return {
    ...kind,
    ...(integer ? { type: of.nullable ? ['integer', 'null'] : 'integer' } : {}),
    ...(of.oneOf.length ? { enum: of.nullable ? [...of.oneOf, null] : of.oneOf } : {}),
    ...limitsOf(of),
    ...partsOf(schema as Schema),
    ...(of.default !== undefined && type !== 'object' ? { default: of.default } : {}),
  };
}

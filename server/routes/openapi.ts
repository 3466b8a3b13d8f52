import { readFileSync } from 'node:fs';
import type { RefusalCode } from '@frustum/core';
import type { Problem } from '@frustum/contract';
import { STATUS } from '../errors.ts';
import { jsonSchemaOf, type JsonSchema } from './json-schema.ts';
import { paramsOf, UNKNOWN, type Ids, type Route } from './route.ts';

/** Schemas of all answers, made of their types when Frustum was built. */
interface AnswerSchemas {
  readonly roots: Readonly<Record<string, JsonSchema>>;
  readonly defs: Readonly<Record<string, JsonSchema>>;
}

/** What any route may say, whatever it does: by status. */
const ANYWHERE: readonly (readonly [Problem['code'], number])[] = [
  ['other-origin', STATUS['other-origin']],
  ['not-readable', 400],
  ['too-many', STATUS['too-many']],
  ['store-away', STATUS['store-away']],
  ['crash', 500],
];
/** What a body may be refused with. */
const OF_BODIES: readonly (readonly [Problem['code'], number])[] = [
  ['not-json', 400],
  ['not-plain', STATUS['not-plain']],
  ['too-large', 413],
  ['not-valid', 422],
  ['disk-full', STATUS['disk-full']],
];

const nameOf = (name: string) => name.replace(/^\w/, (c) => c.toUpperCase());
/** "getSensorsReadings", "getRunsOne": the same for the same route in every version. */
function operationId({ method, path }: Route): string {
  const parts = path.split('/').filter(Boolean);
  const named = parts.map((part, i) => (!part.startsWith(':') ? part : i === parts.length - 1 ? 'one' : ''));
  return (
    method +
    named
      .flatMap((part) => part.split(/[^a-z]+/i))
      .filter(Boolean)
      .map(nameOf)
      .join('')
  );
}

function parametersOf({ path, asks }: Route): JsonSchema[] {
  const ids = paramsOf(path).map((name) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string', ...(name in UNKNOWN ? { format: 'uuid' } : {}) },
  }));
  const words = asks.map(({ name, says, example }) => ({
    name,
    in: 'query',
    description: says,
    schema: { type: 'string' },
    ...(example ? { example } : {}),
  }));
  return [...ids, ...words];
}

function bodyOf({ takes, takesBytes }: Route): JsonSchema {
  if (takes)
    return { requestBody: { required: true, content: { 'application/json': { schema: jsonSchemaOf(takes) } } } };
  if (takesBytes) return { requestBody: { required: true, content: { [takesBytes]: {} } } };
  return {};
}

/** The refusals of a route by status, each with its codes. */
function problemsOf(route: Route): Readonly<Record<string, JsonSchema>> {
  const own = route.refuses.map((code): readonly [Problem['code'], number] => [code, STATUS[code]]);
  const unknown = paramsOf(route.path).flatMap((name): (readonly [Problem['code'], number])[] => {
    const code: RefusalCode | undefined = UNKNOWN[name as keyof Ids];
    return code ? [[code, STATUS[code]]] : [];
  });
  const all = [...own, ...unknown, ...(route.takes || route.takesBytes ? OF_BODIES : []), ...ANYWHERE];
  const byStatus = new Map<number, Set<Problem['code']>>();
  for (const [code, status] of all) byStatus.set(status, (byStatus.get(status) ?? new Set()).add(code));
  return Object.fromEntries(
    [...byStatus].map(([status, codes]) => {
      const problem = { $ref: '#/components/schemas/Problem' };
      const schema = { allOf: [problem, { properties: { code: { enum: [...codes].sort() } } }] };
      return [String(status), { description: 'refused', content: { 'application/problem+json': { schema } } }];
    }),
  );
}

function answersOf(route: Route, { roots }: AnswerSchemas): Readonly<Record<string, JsonSchema>> {
  const { gives, status, marked } = route;
  const answer =
    typeof gives === 'string'
      ? { description: gives, content: { 'application/json': { schema: roots[gives] } } }
      : { description: gives.says, content: { [gives.type]: {} } };
  return {
    [String(status)]: answer,
    ...(marked ? { '304': { description: 'as the one that the browser has (If-None-Match)' } } : {}),
    ...problemsOf(route),
  };
}

/** The live stream is no route of the table: it never ends. */
const LIVE: JsonSchema = {
  get: {
    operationId: 'getLive',
    summary:
      'States of all channels, every sample of those that are watched, and a word when a record has changed: server-sent events.',
    parameters: [
      { name: 'watch', in: 'query', description: 'ids of channels, with commas between', schema: { type: 'string' } },
    ],
    responses: {
      '200': { description: 'events: state, latest, sample, changed, beat', content: { 'text/event-stream': {} } },
    },
  },
};

/** The document of the API, OpenAPI 3.1: from the routes, the schemas of bodies, and the types of answers. */
function documentOf(routes: readonly Route[], answers: AnswerSchemas): JsonSchema {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of routes) {
    const path = `/api${route.path.replaceAll(/:(\w+)/g, '{$1}')}`;
    const parameters = parametersOf(route);
    (paths[path] ??= {})[route.method] = {
      operationId: operationId(route),
      summary: route.says,
      ...(parameters.length ? { parameters } : {}),
      ...bodyOf(route),
      responses: answersOf(route, answers),
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Frustum',
      version: '1',
      description:
        'Everything that the pages ask. On this machine only, and without a log-in. Ids are UUIDs; times ISO 8601 in UTC, or epoch milliseconds where a name ends in Ms. A refusal is a problem of RFC 9457 with a code and its facts: branch on the code, never on the sentence.',
    },
    servers: [{ url: '/' }],
    paths: { ...paths, '/api/live': LIVE },
    components: { schemas: answers.defs },
  };
}

let made: JsonSchema | null = null;

/** The same, made once. @param routes all of them, this one too */
export function readDocument(routes: readonly Route[]): JsonSchema {
  const here = import.meta.filename.endsWith('.js') ? './answers.json' : '../dist/answers.json';
  return (made ??= documentOf(
    routes,
    JSON.parse(readFileSync(new URL(here, import.meta.url), 'utf8')) as AnswerSchemas,
  ));
}

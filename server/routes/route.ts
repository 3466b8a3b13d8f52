import type { Request, RequestHandler, Response } from 'express';
import type { Schema } from 'yup';
import {
  Refusal,
  type ChannelId,
  type LoopId,
  type LotId,
  type RefusalCode,
  type RunId,
  type SensorId,
  type SiteId,
} from '@frustum/core';
import type { Answers } from '@frustum/contract';
import type { Context } from '../context.ts';
import { personOf } from '../person.ts';

/** What stands in a path, and what each is the id of. */
export interface Ids {
  readonly sensorId: SensorId;
  readonly loopId: LoopId;
  readonly channelId: ChannelId;
  readonly lotId: LotId;
  readonly runId: RunId;
  readonly alarmId: string;
  readonly procedureId: string;
  readonly photoId: string;
  readonly siteId: SiteId;
  readonly personId: string;
  readonly walkId: string;
}

/** How it is said that there is no such record. */
export const UNKNOWN = {
  sensorId: 'sensor-unknown',
  loopId: 'loop-unknown',
  channelId: 'channel-unknown',
  lotId: 'lot-unknown',
  runId: 'run-unknown',
  alarmId: 'alarm-unknown',
  procedureId: 'procedure-unknown',
  photoId: 'photo-unknown',
  siteId: 'site-unknown',
  personId: 'person-unknown',
  walkId: 'walk-unknown',
} as const satisfies Readonly<Record<keyof Ids, RefusalCode>>;

type NamesIn<P extends string> = P extends `${infer A}/${infer B}`
  ? NamesIn<A> | NamesIn<B>
  : P extends `:${infer Name}`
    ? Name
    : never;
type IdsIn<P extends string> = { readonly [N in NamesIn<P> & keyof Ids]: Ids[N] };

/** What one request asks for, checked. */
interface Asked<P extends string = string, B = unknown> {
  readonly ids: IdsIn<P>;
  readonly body: B;
  /** one text of the query, and nothing else that a query can be; '' = not there */
  readonly query: (name: string, most?: number) => string;
  readonly request: Request;
  /** who asks, by the name that was chosen in the bar */
  readonly by: string;
  /** nobody waits for the answer any more */
  readonly gone: () => boolean;
}

/** A word of the query. */
interface QueryWord {
  readonly name: string;
  readonly says: string;
  readonly example: string;
}

/** What the API gives that is no JSON. */
interface Content {
  readonly type:
    | 'text/csv'
    | 'application/json'
    | 'application/pdf'
    | 'application/x-tar'
    | 'image/jpeg'
    | 'image/png'
    | 'text/event-stream';
  readonly says: string;
}

/** What somebody may ask the server: as data, from which the router is made, and the document of the API. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  /** what it does, in a line */
  readonly says: string;
  readonly asks: readonly QueryWord[];
  /** of a JSON body; null = it takes none */
  readonly takes: Schema | null;
  /** a body that is no JSON; null = none */
  readonly takesBytes: Content['type'] | null;
  readonly gives: keyof Answers | Content;
  readonly status: 200 | 201 | 202;
  /** refusals of its own; what a wrong id, body or state of the server brings every route has */
  readonly refuses: readonly RefusalCode[];
  /** slow work: it takes turns with other clients, and is dropped when its browser has closed the connection */
  readonly costly: boolean;
  /** follows from Margins: sent only to clients that do not have it already */
  readonly marked: boolean;
  readonly before: readonly RequestHandler[];
  readonly work: (context: Context, asked: Asked) => Promise<unknown>;
  /** null = as JSON */
  readonly send: ((response: Response, made: unknown) => unknown) | null;
}

interface Common<P extends string, B> {
  readonly method: Route['method'];
  readonly path: P;
  readonly says: string;
  readonly asks?: readonly QueryWord[];
  readonly takes?: Schema<B>;
  readonly takesBytes?: Content['type'];
  readonly status?: Route['status'];
  readonly refuses?: readonly RefusalCode[];
  readonly costly?: true;
  readonly marked?: true;
  readonly before?: readonly RequestHandler[];
}

const DEFAULTS = {
  asks: [],
  takes: null,
  takesBytes: null,
  status: 200,
  refuses: [],
  costly: false,
  marked: false,
  before: [],
  send: null,
} as const;

/** A route that answers in JSON: its work gives what it says that it gives. */
export const route = <const P extends string, N extends keyof Answers, B = undefined>(
  of: Common<P, B> & {
    readonly gives: N;
    readonly work: (context: Context, asked: Asked<P, B>) => Promise<Answers[N]>;
  },
): Route => ({ ...DEFAULTS, ...(of as unknown as Pick<Route, 'method' | 'path' | 'says' | 'gives' | 'work'>) });

/** A route that sends something else. */
export const sends = <const P extends string, T>(
  of: Common<P, undefined> & {
    readonly gives: Content | keyof Answers;
    readonly work: (context: Context, asked: Asked<P, undefined>) => Promise<T>;
    readonly send: (response: Response, made: T) => unknown;
  },
): Route => ({
  ...DEFAULTS,
  ...(of as unknown as Pick<Route, 'method' | 'path' | 'says' | 'gives' | 'work' | 'send'>),
});

const STRICT = { abortEarly: false, stripUnknown: false } as const;
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
export const isUuid = (text: string): boolean => UUID.test(text);

/** Names of the parameters of a path. @example paramsOf('/runs/:runId/photos') // ['runId'] */
export const paramsOf = (path: string): readonly string[] =>
  path.split('/').flatMap((part) => (part.startsWith(':') ? [part.slice(1)] : []));

/** Rejects ids that are not UUIDs before the database is asked. */
function idsOf(path: string, request: Request): Readonly<Record<string, string>> {
  return Object.fromEntries(
    paramsOf(path).flatMap((name) => {
      const value = String(request.params[name] ?? '');
      if (!(name in UNKNOWN)) return [];
      if (isUuid(value)) return [[name, value]];
      const code: RefusalCode = UNKNOWN[name as keyof Ids];
      throw new Refusal(code, `There is no record “${value.slice(0, 40)}”. Go back to Margins.`, {
        id: value.slice(0, 40),
      });
    }),
  );
}

/** What a request asks for: ids, body and query, each checked. @throws Refusal, ValidationError */
export async function askedOf({ path, takes }: Route, request: Request, gone: () => boolean): Promise<Asked> {
  const ids = idsOf(path, request);
  const query = (name: string, most = 40) => {
    const value = request.query[name];
    return typeof value === 'string' ? value.slice(0, most) : '';
  };
  const body: unknown = takes ? await takes.validate(request.body, STRICT) : undefined;
  return { ids, body, query, request, by: personOf(request), gone };
}

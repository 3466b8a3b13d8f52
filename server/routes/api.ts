import { Router, type Request, type RequestHandler, type Response } from 'express';
import { Refusal } from '@frustum/core';
import type { Context } from '../context.ts';
import { marginsMark } from '../services/margins/margins.ts';
import { FairTurns } from '../services/running/fair-turns.ts';
import type { Visitors } from '../visitors.ts';
import { ALARMS } from './alarms.ts';
import { BACKUPS } from './backups.ts';
import { CHANNELS } from './channels.ts';
import { DOSES } from './doses.ts';
import { HOUSE } from './house.ts';
import { live } from './live.ts';
import { readDocument } from './openapi.ts';
import { askedOf, route, type Route } from './route.ts';
import { INVENTORY } from './inventory.ts';
import { WALKS } from './walks.ts';
import { LOG_INS } from './log-ins.ts';
import { LOGBOOK } from './logbook.ts';
import { RUNS } from './runs.ts';
import { SENSORS } from './sensors.ts';
import { SET_UP } from './set-up.ts';
import { SHELF } from './shelf.ts';

/** Everything that somebody may ask, but for the live stream. */
export const ROUTES: readonly Route[] = [
  ...HOUSE,
  ...ALARMS,
  ...WALKS,
  ...SENSORS,
  ...SET_UP,
  ...DOSES,
  ...CHANNELS,
  ...SHELF,
  ...LOGBOOK,
  ...LOG_INS,
  ...INVENTORY,
  ...RUNS,
  ...BACKUPS,
  route({
    method: 'get',
    path: '/openapi.json',
    says: 'This document.',
    gives: 'Document',
    work: () => Promise.resolve(readDocument(ROUTES)),
  }),
];

/** Costly work at once, and waiting for one browser. */
const COSTLY_AT_ONCE = 2;
const MAX_WAITING = 12;

/** The API: each route checks what is asked, makes one call and replies. What is thrown goes to the table of problems. */
export function api(context: Context, visitors: Visitors): Router {
  const routes = Router();
  const turns = new FairTurns(COSTLY_AT_ONCE, MAX_WAITING);
  const inTurn = async (of: Route, request: Request, response: Response) => {
    const gone = () => response.destroyed;
    const work = async () => of.work(context, await askedOf(of, request, gone));
    if (!of.costly) return { made: await work() };
    const made = await turns.run(visitors.keyOf(request), gone, work);
    return gone() ? null : { made };
  };
  for (const of of ROUTES) {
    const answers: RequestHandler = async (request, response) => {
      if (of.marked && isKnown(context, request, response)) return;
      const done = await inTurn(of, request, response);
      if (!done) return;
      if (of.send) await of.send(response, done.made);
      else response.status(of.status).json(done.made);
    };
    routes[of.method](of.path, ...of.before, answers);
  }
  routes.get('/live', live(context));
  routes.use(() => {
    throw new Refusal('route-unknown', 'The server has no such address.');
  });
  return routes;
}

/** A browser keeps what follows from Margins, and asks whether it is still so. */
function isKnown(context: Context, request: Request, response: Response): boolean {
  const mark = marginsMark(context);
  response.set({ 'cache-control': 'private, no-cache', etag: mark });
  if (request.get('if-none-match') !== mark) return false;
  response.status(304).end();
  return true;
}

import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import express, { Router, type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import { Refusal } from '@frustum/core';
import { isThisMachine } from './config/config.ts';
import type { Context } from './context.ts';
import { problemOf } from './errors.ts';
import { diskRefusal } from './store/failures.ts';
import { plainOnly, refuseDeep } from './plain-json.ts';
import { api } from './routes/api.ts';
import { Visitors } from './visitors.ts';

/** Requests a minute from one browser, and from all without a name at one address together: far above a bench with all its screens open, far below a flood. */
const MAX_A_MINUTE = 3000;

/** Addresses of a browser, or a proxy that compresses by itself, on the same machine. */
const HERE = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);

/** Where a request of a page may come from: the page itself, or nobody (an address that was typed, a tool). */
const OWN_SITES = new Set(['same-origin', 'none']);

/**
 * Only Frustum's own pages may use the API: another site must neither write nor read here (browsers send its origin along, and
 * say where a request comes from), nor come by a name of its own that points to this machine.
 */
const ownPagesOnly: RequestHandler = (request, _response, next) => {
  const host = request.get('host') ?? '';
  const origin = request.get('origin');
  const foreign = origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== host);
  const elsewhere = !OWN_SITES.has(request.get('sec-fetch-site') ?? 'none');
  if (foreign || elsewhere || !isThisMachine(host.replace(/:\d+$/, ''))) {
    next(new Refusal('other-origin', `Frustum does not answer to ${origin ?? host}. Open it at its own address.`));
  } else next();
};

/** What browsers are told about every answer. */
const safeHeaders = () =>
  helmet({
    contentSecurityPolicy: {
      // Charts set sizes by style attributes; everything else comes from here alone. Plain HTTP on purpose: localhost.
      directives: {
        'default-src': ["'self'"],
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:'],
        'upgrade-insecure-requests': null,
      },
    },
    strictTransportSecurity: false,
  });

/** The screens: files that never change for a year, and one page for every address. */
function pagesOf(webFolder: string, visitors: Visitors): Router {
  const pages = Router();
  pages.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: '1y' }));
  pages.use(express.static(webFolder, { index: false, maxAge: 0 }));
  pages.get('/{*path}', (request, response) => {
    visitors.name(request, response);
    response.set('cache-control', 'no-cache').sendFile(join(webFolder, 'index.html'));
  });
  return pages;
}

/**
 * The HTTP application: safety first, then the API, then the pages.
 *
 * @param mostAMinute requests from one browser or address before it has to wait
 */
export function makeApp(context: Context, webFolder: string | null, mostAMinute = MAX_A_MINUTE): Express {
  const app = express();
  const visitors = new Visitors();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: context.log, autoLogging: context.config.logLevel === 'debug' }));
  app.use(safeHeaders());
  // The live stream must not wait in a compressor. (originalUrl: by then the router has cut the path.)
  app.use(
    compression({
      // Most answers stay in this house: speed is worth more than the last kilobyte, and on this machine than any.
      level: constants.Z_BEST_SPEED,
      filter: (request, response) =>
        // Of one that has gone there is no socket any more.
        !HERE.has((request.socket as typeof request.socket | null)?.remoteAddress ?? '') &&
        !request.originalUrl.startsWith('/api/live') &&
        compression.filter(request, response),
    }),
  );
  app.use(
    '/api',
    rateLimit({
      windowMs: 60_000,
      limit: mostAMinute,
      keyGenerator: (request) => visitors.keyOf(request),
      standardHeaders: true,
      legacyHeaders: false,
      handler: (_request, _response, next) =>
        next(new Refusal('too-many', `More than ${mostAMinute} requests a minute. Wait a moment.`)),
    }),
    ownPagesOnly,
    express.json({ limit: '2mb', verify: (_request, _response, bytes) => refuseDeep(bytes) }),
    plainOnly,
    (_request, response, next) => {
      response.set('cache-control', 'no-store');
      next();
    },
    api(context, visitors),
  );
  if (webFolder && existsSync(join(webFolder, 'index.html'))) app.use(pagesOf(webFolder, visitors));
  const onError: ErrorRequestHandler = (error, _request, response, _next) => {
    context.wellBeing.note(diskRefusal(error) ?? error);
    const problem = problemOf(error);
    if (problem.status >= 500 && problem.code === 'crash') context.log.error(error);
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
  app.use(onError);
  return app;
}

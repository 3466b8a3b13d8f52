import type { RequestHandler } from 'express';

/** A route that answers with what its one call returns; whatever it throws goes to the table of problems. */
export function answer<T>(call: (request: Parameters<RequestHandler>[0]) => Promise<T>, status = 200): RequestHandler {
  return async (request, response) => {
    response.status(status).json(await call(request));
  };
}

/** A path parameter, which Express types as optional. */
export function param(request: Parameters<RequestHandler>[0], name: string): string {
  return String(request.params[name] ?? '');
}

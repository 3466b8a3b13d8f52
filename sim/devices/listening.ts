import { createServer, type Server as HttpServer } from 'node:http';
import type { Server } from 'node:net';

/** Most that a stand-in reads of one request, bytes. */
const MAX_BYTES = 1000;

/** Resolves when a server listens. */
export function listening<S extends Server>(server: S, host: string, port: number): Promise<S> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}

/** What a small device answers: a status, and a body as JSON. */
type Answer = readonly [status: number, body: unknown];

/** A device that answers JSON over HTTP; what it throws is a 400 in words. On this machine only. */
export function jsonDevice(
  host: string,
  port: number,
  answer: (method: string, path: string, body: unknown) => Answer,
): Promise<HttpServer> {
  const http = createServer((request, response) => {
    const reply = ([status, body]: Answer) => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    };
    let text = '';
    request.on('data', (chunk: Buffer) => {
      text += chunk.toString();
      if (text.length > MAX_BYTES) request.destroy();
    });
    request.on('end', () => {
      try {
        reply(answer(request.method ?? '', request.url ?? '', text ? (JSON.parse(text) as unknown) : null));
      } catch (error) {
        reply([400, { error: (error as Error).message }]);
      }
    });
    request.on('error', () => request.destroy());
  });
  return listening(http, host, port);
}

import { createServer, type Server } from 'node:http';
import type { BenchProbe } from './bench-probe.ts';

const MOST_BYTES = 1000;

/** The stand-in's hands over HTTP: GET and POST /probes/<first register>. On this machine only. */
export function handsServer(probes: ReadonlyMap<number, BenchProbe>, host: string, port: number): Promise<Server> {
  const http = createServer((request, response) => {
    const reply = (status: number, body: unknown) => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    };
    const probe = probes.get(Number(/^\/probes\/(\d+)$/.exec(request.url ?? '')?.[1] ?? NaN));
    if (!probe) return reply(404, { error: 'no such probe' });
    if (request.method === 'GET') return reply(200, probe.view());
    let text = '';
    request.on('data', (chunk: Buffer) => {
      text += chunk.toString();
      if (text.length > MOST_BYTES) request.destroy();
    });
    request.on('end', () => {
      try {
        reply(200, probe.hands(JSON.parse(text) as { action: string }));
      } catch (error) {
        reply(400, { error: (error as Error).message });
      }
    });
  });
  return new Promise((resolve, reject) => {
    http.once('error', reject);
    http.listen(port, host, () => resolve(http));
  });
}

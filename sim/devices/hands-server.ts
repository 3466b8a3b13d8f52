import type { Server } from 'node:http';
import { jsonDevice } from './listening.ts';
import type { Order, StandIn } from './stand-in.ts';

/** Which body hangs on a channel, by what the channel is read by; null = none of this house. */
export type Finder = (channel: Readonly<Record<string, unknown>>) => string | null;

/**
 * The stand-in's hands over HTTP: GET and POST /probes/<key>, and POST /find with a channel to learn its key.
 * On this machine only.
 */
export function handsServer(
  bodies: ReadonlyMap<string, StandIn>,
  find: Finder,
  host: string,
  port: number,
): Promise<Server> {
  return jsonDevice(host, port, (method, path, body) => {
    if (method === 'POST' && path === '/find') {
      const key = find((body ?? {}) as Record<string, unknown>);
      return key === null ? [404, { error: 'no stand-in hangs on this channel' }] : [200, { key }];
    }
    const stand = bodies.get(decodeURIComponent(/^\/probes\/([^/?]+)$/.exec(path)?.[1] ?? ''));
    if (!stand) return [404, { error: 'no such probe' }];
    if (method === 'GET') return [200, stand.view()];
    return [200, stand.hands(body as Order)];
  });
}

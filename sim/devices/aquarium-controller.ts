import { createServer, type Server } from 'node:http';
import type { ProbePort } from './transmitter.ts';

/**
 * A stand-in for an aquarium-type controller: everything it knows as one JSON answer over HTTP, GET /now. An invented
 * answer with invented names: `{ "house": …, "probes": { "<key>": { "signal": { "mv": … }, "water": { "celsius": … } } } }`.
 *
 * It shows the same probes as the transmitter, by another wire; it takes no coefficients.
 */
export function aquariumController(
  probes: ReadonlyMap<string, ProbePort>,
  host: string,
  port: number,
): Promise<Server> {
  const http = createServer((request, response) => {
    const reply = (status: number, body: unknown) => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    };
    if (request.method !== 'GET' || request.url !== '/now') return reply(404, { error: 'GET /now' });
    const shown = [...probes].map(([key, probe]) => {
      const { potentialMv, temperatureC } = probe.read();
      // Tenths of a millivolt and hundredths of a degree, as its display has them.
      const celsius = Math.round(temperatureC * 100) / 100;
      return [key, { signal: { mv: Math.round(potentialMv * 10) / 10 }, water: { celsius } }] as const;
    });
    reply(200, { house: 'Tidewater House', probes: Object.fromEntries(shown) });
  });
  return new Promise((resolve, reject) => {
    http.once('error', reject);
    http.listen(port, host, () => resolve(http));
  });
}

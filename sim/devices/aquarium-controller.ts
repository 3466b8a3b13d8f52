import type { Server } from 'node:http';
import { jsonDevice } from './listening.ts';
import { displayed, type ProbePort } from './ports.ts';

/**
 * A stand-in for an aquarium-type controller: everything it knows as one JSON answer over HTTP, GET /now. An invented
 * answer with invented names: `{ "house": …, "probes": { "<key>": { "signal": { "mv": … }, "water": { "celsius": … }, "clock_s": … } } }`.
 * Beside `mv` a body may show `conductance_us`, `current_na`, `nitrate_n` and its other electrodes.
 *
 * It shows the same bodies as the transmitter, by another wire; it takes no coefficients.
 */
export function aquariumController(
  probes: ReadonlyMap<string, ProbePort>,
  host: string,
  port: number,
): Promise<Server> {
  return jsonDevice(host, port, (method, path) => {
    if (method !== 'GET' || path !== '/now') return [404, { error: 'GET /now' }];
    const shown = [...probes].map(([key, probe]) => {
      const reading = probe.read();
      const celsius = Math.round(reading.temperatureC * 100) / 100;
      const clock_s = Math.round(reading.clockSeconds * 10) / 10;
      return [key, { signal: displayed(reading), water: { celsius }, clock_s }] as const;
    });
    return [200, { house: 'Tidewater House', probes: Object.fromEntries(shown) }];
  });
}

import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { aquariumController } from './aquarium-controller.ts';
import type { ProbePort } from './transmitter.ts';

const open: { close: () => unknown }[] = [];
afterEach(() => open.splice(0).forEach((thing) => thing.close()));

const probe = (potentialMv: number, temperatureC: number): ProbePort => ({
  read: () => ({ potentialMv, temperatureC, clockSeconds: 0 }),
  memory: { zeroMv: 0, slope: 1 },
  written: () => undefined,
});

describe('the controller that speaks JSON', () => {
  it('shows every probe at once, in the steps of its display, and nothing else', async () => {
    const probes = new Map([
      ['main', probe(-69.5234, 25.004)],
      ['backup', probe(177.48, 24.987)],
    ]);
    const http = await aquariumController(probes, '127.0.0.1', 0);
    open.push(http);
    const url = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
    expect(await (await fetch(`${url}/now`)).json()).toEqual({
      house: 'Tidewater House',
      probes: {
        main: { signal: { mv: -69.5 }, water: { celsius: 25 } },
        backup: { signal: { mv: 177.5 }, water: { celsius: 24.99 } },
      },
    });
    expect((await fetch(`${url}/other`)).status).toBe(404);
    expect((await fetch(`${url}/now`, { method: 'POST', body: '{}' })).status).toBe(404);
  });
});

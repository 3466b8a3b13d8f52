import { connect, type AddressInfo, type Server } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { aquariumController } from './aquarium-controller.ts';
import { growRoomMonitor } from './grow-room-monitor.ts';
import { transmitter, type ProbePort } from './transmitter.ts';

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

describe('a caller that pulls the plug in the middle of a word', () => {
  /** Says half a frame and resets the connection; resolves when the device has seen it go. */
  const reset = (server: Server, half: Buffer) =>
    new Promise<void>((resolve) => {
      server.once('connection', (socket) => socket.once('close', () => resolve()));
      const socket = connect((server.address() as AddressInfo).port, '127.0.0.1', () => {
        socket.write(half, () => socket.resetAndDestroy());
      });
      socket.on('error', () => undefined);
    });
  /** Takes a call and hangs up in good order. */
  const answers = (server: Server) =>
    new Promise<boolean>((resolve) => {
      const socket = connect((server.address() as AddressInfo).port, '127.0.0.1', () => {
        socket.end();
        resolve(true);
      }).once('error', () => resolve(false));
    });

  it('does not take the transmitter or the monitor down with it', async () => {
    const modbus = await transmitter([probe(0, 25)], 20, '127.0.0.1', 0);
    const mqtt = await growRoomMonitor(new Map([['main', probe(0, 25)]]), '127.0.0.1', 0);
    open.push(modbus, mqtt);
    for (const server of [modbus, mqtt]) {
      for (let i = 0; i < 5; i++) await reset(server, Buffer.from([0, 1, 0, 0, 0, 6, 1]));
      expect(await answers(server)).toBe(true);
    }
  }, 15_000);
});

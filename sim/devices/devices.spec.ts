import { connect, type AddressInfo, type Server } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { decodeRegisters } from '@frustum/formats';
import { client as clients } from 'jsmodbus';
import { houseBodies } from '../fleets/bodies.ts';
import { aquariumController } from './aquarium-controller.ts';
import { benchInstruments, BenchInstruments } from './bench-instruments.ts';
import { growRoomMonitor } from './grow-room-monitor.ts';
import { handsServer } from './hands-server.ts';
import { faultyLine } from './line-fault.ts';
import { multiProbe, MULTI_PROBE_FIGURES } from './multi-probe.ts';
import { fixedProbe } from '../testing/fixed-probe.ts';
import { StandIn } from './stand-in.ts';
import { transmitter } from './transmitter.ts';

const HOST = '127.0.0.1';
const open: { close: () => unknown }[] = [];
afterEach(() => open.splice(0).forEach((thing) => thing.close()));
const portOf = (server: Server) => (server.address() as AddressInfo).port;
async function opened<S extends Server>(server: Promise<S>): Promise<S> {
  const it = await server;
  open.push(it);
  return it;
}

const probe = fixedProbe;

/** A house whose clock a test moves by hand. */
function house() {
  let nowMs = Date.UTC(2026, 10, 23, 9);
  const bodies = new Map(
    houseBodies(4870).map((made) => [made.key, new StandIn(made, { nowMs: () => nowMs })] as const),
  );
  const after = (seconds: number) => {
    nowMs += 1000 * seconds;
  };
  return { bodies, after, nowMs: () => nowMs };
}

/** Input registers of a device. */
async function registers(port: number, start: number, count: number): Promise<number[]> {
  const socket = connect(port, HOST);
  const client = new clients.TCP(socket, 1, 2000);
  await new Promise<void>((resolve, reject) => socket.once('connect', () => resolve()).once('error', reject));
  try {
    const { response } = await client.readInputRegisters(start, count);
    return response.body.valuesAsArray as number[];
  } finally {
    socket.destroy();
  }
}

describe('the controller that speaks JSON', () => {
  it('shows every probe at once, in the steps of its display, and nothing else', async () => {
    const probes = new Map([
      ['main', probe(-69.5234, 25.004)],
      ['backup', probe(177.48, 24.987)],
    ]);
    const url = `http://${HOST}:${portOf(await opened(aquariumController(probes, HOST, 0)))}`;
    expect(await (await fetch(`${url}/now`)).json()).toEqual({
      house: 'Tidewater House',
      probes: {
        main: { signal: { mv: -69.5 }, water: { celsius: 25 }, clock_s: expect.any(Number) as number },
        backup: { signal: { mv: 177.5 }, water: { celsius: 24.99 }, clock_s: expect.any(Number) as number },
      },
    });
    expect((await fetch(`${url}/other`)).status).toBe(404);
    expect((await fetch(`${url}/now`, { method: 'POST', body: '{}' })).status).toBe(404);
  });

  it('shows of each body of the house what it has: mV, µS, nA, mg/L', async () => {
    const { bodies } = house();
    const url = `http://${HOST}:${portOf(await opened(aquariumController(bodies, HOST, 0)))}`;
    const { probes } = (await (await fetch(`${url}/now`)).json()) as {
      probes: Record<string, { signal: Record<string, number> }>;
    };
    const signal = (key: string) => probes[key]!.signal;
    expect(Object.keys(signal('multi-probe'))).toEqual(['mv', 'nitrate_mv', 'potassium_mv', 'conductance_us']);
    expect(Object.keys(signal('make-up'))).toEqual(['conductance_us']);
    // 0.9 µS/cm at 25 °C, at 18 °C in a cell of 0.01 /cm: about 78 µS.
    expect(signal('make-up')['conductance_us']).toBeGreaterThan(70);
    expect(signal('make-up')['conductance_us']).toBeLessThan(86);
    expect(signal('rinse-chlorine')['current_na']).toBeGreaterThan(20);
    expect(signal('remineralised-nitrate')['nitrate_n']).toBeCloseTo(0.12 * 14.007 * 0.96 + 0.05 + 0.48, 0);
    // 22 in practical salinity at 25.5 °C conducts about 35 mS/cm.
    expect(signal('display-salinity')['conductance_us']! / 1000).toBeCloseTo(34.9, -1);
  });
});

describe('the transmitter', () => {
  it('has mV, °C, clock, status and both impedances where its page says', async () => {
    const port = portOf(await opened(transmitter([probe(0, 20), probe(-69.52, 25.37)], 20, HOST, 0)));
    const words = await registers(port, 20, 7);
    expect(words).toEqual([65_536 - 695, 2537, 0, 123, 0, 1234, 80]);
  });
});

describe('the multi-probe', () => {
  it('gives five floats, low word first, of one body', async () => {
    const { bodies } = house();
    const multi = bodies.get('multi-probe')!;
    const port = portOf(await opened(multiProbe(multi, HOST, 0)));
    const words = await registers(port, 0, 10);
    const figures = MULTI_PROBE_FIGURES.map((_, i) =>
      decodeRegisters(words.slice(2 * i, 2 * i + 2), 'float32', 'low-first')!,
    );
    const { electrodes, conductance, temperatureC } = multi.read();
    expect(figures[0]).toBeCloseTo(electrodes['ph']!, -1);
    expect(figures[1]).toBeCloseTo(electrodes['nitrate']!, -1);
    expect(figures[2]).toBeCloseTo(electrodes['potassium']!, -1);
    expect(figures[3]! / conductance).toBeCloseTo(1, 1);
    expect(figures[4]).toBeCloseTo(temperatureC, 0);
  });
});

describe('the hands', () => {
  const post = (url: string, body: unknown) => fetch(url, { method: 'POST', body: JSON.stringify(body) });

  it('do what an operator’s do, each body its own, and refuse what they cannot in words', async () => {
    const { bodies, after } = house();
    const find = ({ topic }: Record<string, unknown>) => (topic === 'here' ? 'line-1' : null);
    const url = `http://${HOST}:${portOf(await opened(handsServer(bodies, find, HOST, 0)))}`;
    const line = `${url}/probes/line-1`;
    const order = async (body: unknown) => (await (await post(line, body)).json()) as ReturnType<StandIn['view']>;

    expect(await (await post(`${url}/find`, { topic: 'here' })).json()).toEqual({ key: 'line-1' });
    expect((await post(`${url}/find`, { topic: 'elsewhere' })).status).toBe(404);
    const before = (await (await fetch(line)).json()) as ReturnType<StandIn['view']>;
    expect(before).toMatchObject({ place: 'process', clockRate: 1, plugged: null });
    expect(before.places).toContain('cup-7.00');
    await order({ action: 'move', place: 'rinse' });
    await order({ action: 'blot' });
    expect((await order({ action: 'move', place: 'cup-7.00' })).place).toBe('cup-7.00');
    after(240);
    expect(Math.abs(bodies.get('line-1')!.read().potentialMv)).toBeLessThan(25);
    await order({ action: 'plug', value: 177.5 });
    expect(bodies.get('line-1')!.read().potentialMv).toBeCloseTo(177.5, 0);
    expect((await order({ action: 'unplug' })).plugged).toBeNull();
    const faults = (await order({ action: 'fault', fault: 'cable pulled', severity: 1 })).faults;
    expect(faults.filter((f) => f.severity > 0).map((f) => f.name)).toEqual(['cable pulled']);
    expect((await order({ action: 'fault', fault: 'cable pulled', severity: 0 })).faults.some((f) => f.severity)).toBe(
      false,
    );
    expect((await order({ action: 'soak' })).place).toBe('storage');
    expect((await order({ action: 'clock', rate: 900 })).clockRate).toBe(30);
    await order({ action: 'clock-jump', seconds: 3600 });
    expect(bodies.get('line-1')!.read().clockSeconds).toBeGreaterThan(3600);
    await order({ action: 'status', value: 3 });
    expect(bodies.get('line-1')!.read().status).toBe(3);
    expect(bodies.get('line-2')!.read().status).toBe(0);

    const no = await post(line, { action: 'move', place: 'the moon' });
    expect([no.status, await no.json()]).toEqual([400, { error: 'the hands cannot move the moon' }]);
    expect((await post(line, { action: 'fault', fault: 'gremlins', severity: 1 })).status).toBe(400);
    expect((await post(`${url}/probes/nobody`, { action: 'wiggle' })).status).toBe(404);
    expect((await fetch(line, { method: 'POST', body: '{' })).status).toBe(400);
  });
});

describe('the bench’s own instruments', () => {
  it('the thermometer follows with 15 s and its own small error; the photometer wants a blank, and its colour fades', async () => {
    const { bodies, after, nowMs } = house();
    const instruments = new BenchInstruments(bodies, 3, nowMs);
    const url = `http://${HOST}:${portOf(await opened(benchInstruments(instruments, HOST, 0)))}`;
    expect(((await (await fetch(`${url}/now`)).json()) as { photometer: unknown }).photometer).toMatchObject({
      chlorine_mg_l: null,
    });
    instruments.hands({ action: 'dip', probe: 'display-main' });
    const there = bodies.get('display-main')!.body.surroundingsC() - 0.08;
    after(15);
    expect(instruments.now().thermometer.celsius).toBeCloseTo(there + (20 - there) * Math.exp(-1), 0);
    after(200);
    expect(Math.abs(instruments.now().thermometer.celsius - there)).toBeLessThan(0.11);

    instruments.hands({ action: 'sample', probe: 'rinse-chlorine' });
    const unzeroed = instruments.now().photometer.chlorine_mg_l!;
    instruments.hands({ action: 'blank' });
    expect(unzeroed - instruments.now().photometer.chlorine_mg_l!).toBeCloseTo(0.06, 5);
    expect(Math.abs(instruments.now().photometer.chlorine_mg_l! - 0.5)).toBeLessThan(0.03);
    after(600);
    expect(instruments.now().photometer.chlorine_mg_l!).toBeLessThan(0.4);
    expect(() => instruments.hands({ action: 'sample', probe: 'nobody' })).toThrow(/cannot sample nobody/);
  });
});

describe('a caller that pulls the plug in the middle of a word', () => {
  /** Says half a frame and resets the connection; resolves when the device has seen it go. */
  const reset = (server: Server, half: Buffer) =>
    new Promise<void>((resolve) => {
      server.once('connection', (socket) => socket.once('close', () => resolve()));
      const socket = connect(portOf(server), HOST, () => {
        socket.write(half, () => socket.resetAndDestroy());
      });
      socket.on('error', () => undefined);
    });
  /** Takes a call and hangs up in good order. */
  const answers = (server: Server) =>
    new Promise<boolean>((resolve) => {
      const socket = connect(portOf(server), HOST, () => {
        socket.end();
        resolve(true);
      }).once('error', () => resolve(false));
    });

  it('does not take the transmitter, the monitor or the controller down with it', async () => {
    const devices = [
      await opened(transmitter([probe(0, 25)], 20, HOST, 0)),
      await opened(growRoomMonitor(new Map([['main', probe(0, 25)]]), HOST, 0)),
      await opened(aquariumController(new Map([['main', probe(0, 25)]]), HOST, 0)),
    ];
    for (const server of devices) {
      for (let i = 0; i < 5; i++) await reset(server, Buffer.from([0, 1, 0, 0, 0, 6, 1]));
      expect(await answers(server)).toBe(true);
    }
  });
});

describe('a line that goes wrong', () => {
  it('relays as it is told, and spoils the answers as it is told', async () => {
    const device = await opened(transmitter([probe(-69.52, 25.37)], 20, HOST, 0));
    const line = await faultyLine(portOf(device), HOST, 0);
    open.push(line);
    const port = portOf(line.server);
    expect((await registers(port, 0, 2))[1]).toBe(2537);
    line.set('hangs up');
    await expect(registers(port, 0, 2)).rejects.toBeDefined();
    line.set('none');
    expect((await registers(port, 0, 1))[0]).toBe(65_536 - 695);
  });
});

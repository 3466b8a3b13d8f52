/**
 * The stand-in house: every body of Tidewater House on its wires (a Modbus TCP transmitter for pH, a multi-probe, a
 * controller that answers JSON, a monitor with an MQTT broker), the bench's own instruments, and hands for all of them.
 * Writes the house's history as an open bundle, once, for people who want to read it.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { encodeBundle } from '@frustum/formats';
import { aquariumController } from './devices/aquarium-controller.ts';
import { benchInstruments, BenchInstruments } from './devices/bench-instruments.ts';
import { growRoomMonitor } from './devices/grow-room-monitor.ts';
import { handsServer, type Finder } from './devices/hands-server.ts';
import { multiProbe } from './devices/multi-probe.ts';
import { StandIn } from './devices/stand-in.ts';
import { transmitter } from './devices/transmitter.ts';
import { houseBodies } from './fleets/bodies.ts';
import { historyOf, REGISTERS_A_PROBE } from './fleets/history.ts';
import { TIDEWATER } from './fleets/tidewater.ts';

const DAY_MS = 86_400_000;
const HOST = '127.0.0.1';

interface Memory {
  /** the day that the history calls today, epoch ms */
  readonly bornMs: number;
  readonly seed: number;
  readonly modbusPort: number;
  /** of the other devices that channels name */
  readonly jsonPort?: number;
  readonly multiProbePort?: number;
  readonly coefficients: Record<string, { zeroMv: number; slope: number }>;
  /** where a body was left, and when: a device that restarts does not move its probe */
  readonly left?: Record<string, { readonly place: string; readonly atMs: number }>;
}

const folder = resolve(process.env['FRUSTUM_DATA'] ?? '.frustum');
const rate = Number(process.env['FRUSTUM_CLOCK_RATE'] ?? 1) || 1;
const portOf = (name: string, usual: number) => Number(process.env[`FRUSTUM_${name}_PORT`] ?? usual);
const ports = {
  hands: portOf('HANDS', 4880),
  modbus: portOf('MODBUS', 4881),
  json: portOf('JSON', 4882),
  mqtt: portOf('MQTT', 4883),
  multiProbe: portOf('MULTIPROBE', 4884),
  instruments: portOf('INSTRUMENTS', 4885),
};
const memoryFile = join(folder, 'stand-in.json');

mkdirSync(folder, { recursive: true });
const remembered = existsSync(memoryFile) ? (JSON.parse(readFileSync(memoryFile, 'utf8')) as Memory) : null;
const memory: Memory = remembered ?? {
  bornMs: Math.floor(Date.now() / 60_000) * 60_000,
  seed: Number(process.env['FRUSTUM_SEED'] ?? 4870),
  modbusPort: ports.modbus,
  coefficients: {},
};
const left = { ...memory.left };
/** After so long somebody has put the probes back, ms. */
const LEFT_MS = 600_000;

const daysSince = (Date.now() - memory.bornMs) / DAY_MS;
// A seed that was asked for gives the same noise each time; else each start has its own.
const restless = process.env['FRUSTUM_SEED'] ? 0 : Date.now() % 1000;
const bodies = new Map(
  houseBodies(memory.seed, daysSince).map((made): [string, StandIn] => {
    const mine = (memory.coefficients[made.key] ??= { zeroMv: 0, slope: 1 });
    const onMoved = (place: string) => {
      left[made.key] = { place, atMs: Date.now() };
      keep();
    };
    const options = { memory: mine, rate, nowMs: Date.now, onWritten: keep, onMoved };
    const stand = new StandIn({ ...made, seed: made.seed + restless }, options);
    const last = left[made.key];
    if (last && Date.now() - last.atMs < LEFT_MS) stand.body.moveTo(last.place);
    return [made.key, stand];
  }),
);
/** the transmitter's inputs, in their order */
const inputs = TIDEWATER.map((house) => bodies.get(house.key)!);

/** Which body a channel reads, by whatever names it on its wire. */
const find: Finder = ({ kind, port, baseAddress, register, url, topic, pointer }) => {
  const input = kind === 'modbus' ? baseAddress : register;
  if (kind === 'modbus' || kind === 'modbus-map') {
    if (kind === 'modbus-map' && port === ports.multiProbe) return 'multi-probe';
    return TIDEWATER[Math.floor(Number(input) / REGISTERS_A_PROBE)]?.key ?? null;
  }
  const words = [url, topic, pointer].map(String).join('/').split('/');
  return [...bodies.keys()].find((key) => words.includes(key)) ?? null;
};

function keep(): void {
  writeFileSync(memoryFile, JSON.stringify({ ...memory, left }));
}

async function start(): Promise<void> {
  // The channels in the database name the port: a house that has been there keeps it.
  const tcp = await transmitter(inputs, REGISTERS_A_PROBE, HOST, remembered?.modbusPort || ports.modbus);
  const modbusPort = (tcp.address() as AddressInfo).port;
  const instruments = new BenchInstruments(bodies, memory.seed, Date.now, rate);
  const servers = {
    handsUrl: await handsServer(bodies, find, HOST, ports.hands),
    jsonUrl: await aquariumController(bodies, HOST, remembered?.jsonPort || ports.json),
    mqttUrl: await growRoomMonitor(bodies, HOST, ports.mqtt),
    multiProbeUrl: await multiProbe(bodies.get('multi-probe')!, HOST, remembered?.multiProbePort || ports.multiProbe),
    instrumentsUrl: await benchInstruments(instruments, HOST, ports.instruments),
  };
  ports.multiProbe = (servers.multiProbeUrl.address() as AddressInfo).port;
  const bundleFile = join(folder, 'history.bundle.json');
  const jsonPort = (servers.jsonUrl.address() as AddressInfo).port;
  const taken = { modbusPort, jsonPort, multiProbePort: ports.multiProbe };
  Object.assign(memory, taken);
  keep();
  if (!remembered) {
    const jsonUrl = `http://${HOST}:${jsonPort}/now`;
    const stands = { host: HOST, port: modbusPort, jsonUrl, multiProbePort: ports.multiProbe };
    writeFileSync(bundleFile, encodeBundle(historyOf(memory.bornMs, memory.seed, stands)));
  }
  const urls = Object.fromEntries(
    Object.entries(servers).map(([name, server]) => [name, `http://${HOST}:${(server.address() as AddressInfo).port}`]),
  );
  process.send?.({ ready: true, bundleFile, ...urls, jsonUrl: `${urls['jsonUrl']}/now` });
}

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
process.on('disconnect', () => process.exit(0));

start().catch((error: NodeJS.ErrnoException) => {
  const port = (error as { port?: number }).port;
  process.stderr.write(
    error.code === 'EADDRINUSE'
      ? `Port ${port} of the stand-in is in use. Stop what listens there, or set FRUSTUM_HANDS_PORT, FRUSTUM_JSON_PORT, FRUSTUM_MQTT_PORT, FRUSTUM_MULTIPROBE_PORT, FRUSTUM_INSTRUMENTS_PORT and FRUSTUM_MODBUS_PORT (with -- --fresh).\n`
      : `${error.stack}\n`,
  );
  process.exit(1);
});

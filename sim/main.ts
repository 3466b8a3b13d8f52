/**
 * The stand-in house: one Modbus TCP transmitter with all pH probes of Tidewater House, a controller that shows them as
 * JSON over HTTP, and their hands.
 * Writes the house's history as an open bundle, once, for whoever wants to read it.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { encodeBundle } from '@frustum/formats';
import { aquariumController } from './devices/aquarium-controller.ts';
import { BenchProbe } from './devices/bench-probe.ts';
import { growRoomMonitor } from './devices/grow-room-monitor.ts';
import { handsServer } from './devices/hands-server.ts';
import { transmitter } from './devices/transmitter.ts';
import { historyOf, REGISTERS_A_PROBE } from './fleets/history.ts';
import { lifeOf, TIDEWATER } from './fleets/tidewater.ts';
import { truthAt } from './physics/ageing.ts';

const DAY_MS = 86_400_000;
const HOST = '127.0.0.1';

interface Memory {
  /** the day that the history calls today, epoch ms */
  readonly bornMs: number;
  readonly seed: number;
  readonly modbusPort: number;
  readonly coefficients: Record<string, { zeroMv: number; slope: number }>;
}

const folder = resolve(process.env['FRUSTUM_DATA'] ?? '.frustum');
const rate = Number(process.env['FRUSTUM_CLOCK_RATE'] ?? 1) || 1;
const handsPort = Number(process.env['FRUSTUM_HANDS_PORT'] ?? 4880);
const jsonPort = Number(process.env['FRUSTUM_JSON_PORT'] ?? 4882);
const mqttPort = Number(process.env['FRUSTUM_MQTT_PORT'] ?? 4883);
const wiredPort = Number(process.env['FRUSTUM_MODBUS_PORT'] ?? 4881);
const memoryFile = join(folder, 'stand-in.json');

mkdirSync(folder, { recursive: true });
const remembered = existsSync(memoryFile) ? (JSON.parse(readFileSync(memoryFile, 'utf8')) as Memory) : null;
const memory: Memory = remembered ?? {
  bornMs: Math.floor(Date.now() / 60_000) * 60_000,
  seed: Number(process.env['FRUSTUM_SEED'] ?? 4870),
  modbusPort: wiredPort,
  coefficients: {},
};

const probes = TIDEWATER.map((house) => {
  const { life, seed } = lifeOf(house, memory.seed);
  const days = house.ageDays + (Date.now() - memory.bornMs) / DAY_MS;
  const mine = (memory.coefficients[house.key] ??= { zeroMv: 0, slope: 1 });
  return new BenchProbe(
    truthAt(life, days, seed),
    house.process,
    seed + (Date.now() % 1000) * Number(!process.env['FRUSTUM_SEED']),
    {
      memory: mine,
      rate,
      nowMs: Date.now,
      onWritten: keep,
    },
  );
});

function keep(): void {
  writeFileSync(memoryFile, JSON.stringify(memory));
}

async function start(): Promise<void> {
  // The channels in the database name the port: a house that has been there keeps it.
  const tcp = await transmitter(probes, REGISTERS_A_PROBE, HOST, remembered?.modbusPort || wiredPort);
  const modbusPort = (tcp.address() as AddressInfo).port;
  const hands = await handsServer(new Map(probes.map((p, i) => [i * REGISTERS_A_PROBE, p])), HOST, handsPort);
  const json = await aquariumController(new Map(TIDEWATER.map((h, i) => [h.key, probes[i]!])), HOST, jsonPort);
  const mqtt = await growRoomMonitor(new Map(TIDEWATER.map((h, i) => [h.key, probes[i]!])), HOST, mqttPort);
  const bundleFile = join(folder, 'history.bundle.json');
  if (!remembered) {
    Object.assign(memory, { modbusPort });
    keep();
    writeFileSync(bundleFile, encodeBundle(historyOf(memory.bornMs, memory.seed, { host: HOST, port: modbusPort })));
  }
  const urlOf = (server: { address(): unknown }) => `http://${HOST}:${(server.address() as AddressInfo).port}`;
  process.send?.({
    ready: true,
    bundleFile,
    handsUrl: urlOf(hands),
    jsonUrl: `${urlOf(json)}/now`,
    mqttUrl: urlOf(mqtt),
  });
}

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
process.on('disconnect', () => process.exit(0));

start().catch((error: NodeJS.ErrnoException) => {
  const port = (error as { port?: number }).port;
  process.stderr.write(
    error.code === 'EADDRINUSE'
      ? `Port ${port} of the stand-in is in use. Stop what listens there, or set FRUSTUM_HANDS_PORT, FRUSTUM_JSON_PORT, FRUSTUM_MQTT_PORT and FRUSTUM_MODBUS_PORT (with -- --fresh).\n`
      : `${error.stack}\n`,
  );
  process.exit(1);
});

/**
 * Independent peers of Debian: mosquitto as broker, pymodbus as server for our client and as client for our stand-in.
 * `npm test` installs them on Debian; elsewhere these tests are skipped, and say so.
 */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connectAsync } from 'mqtt';
import { afterAll, describe, expect, it } from 'vitest';
import { testChannelSchema } from '@frustum/contract';
import { fixedProbe } from '../../sim/testing/fixed-probe.ts';
import { transmitter } from '../../sim/devices/transmitter.ts';
import { LiveHub } from './live-hub.ts';
import { Poller } from './poller.ts';

const PYTHON = '/usr/bin/python3';
const MOSQUITTO = '/usr/sbin/mosquitto';
const hasModbus = spawnSync(PYTHON, ['-c', 'import pymodbus.client'], { stdio: 'ignore' }).status === 0;
const hasBroker = existsSync(MOSQUITTO);
if (!hasModbus)
  process.stdout.write(
    'Skipped: no python3-pymodbus here (apt-get install python3-pymodbus python3-serial-asyncio).\n',
  );
if (!hasBroker) process.stdout.write('Skipped: no mosquitto here (apt-get install mosquitto).\n');

const folder = mkdtempSync(join(tmpdir(), 'frustum-peers-'));
const children: ChildProcess[] = [];
afterAll(() => {
  children.forEach((c) => c.kill('SIGKILL'));
  rmSync(folder, { recursive: true, force: true });
});

/** A port that is free now, for a peer that cannot choose one itself. */
async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/** Waits until somebody takes calls on a port. */
async function listens(port: number): Promise<void> {
  const called = () =>
    new Promise<boolean>((resolve) => {
      const socket = connect(port, '127.0.0.1', () => resolve(true)).once('error', () => resolve(false));
      socket.once('connect', () => socket.destroy());
    });
  while (!(await called())) await new Promise((resolve) => setTimeout(resolve, 20));
}

/** Starts a peer and waits until it says a line. */
function peer(command: string, args: string[], says: RegExp): Promise<void> {
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  children.push(child);
  let heard = '';
  return new Promise((resolve, reject) => {
    const listen = (chunk: Buffer) => {
      heard += chunk.toString();
      if (says.test(heard)) resolve();
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    child.once('exit', (code) => reject(new Error(`${command} ended with ${code}: ${heard}`)));
  });
}

async function tryOnce(channel: object) {
  const poller = new Poller(new LiveHub());
  const checked = await testChannelSchema.validate({ channel });
  return poller.test(checked.channel).finally(() => poller.stop());
}

describe.skipIf(!hasBroker)('mosquitto', () => {
  it.each(['3.1.1', '5'])(
    'MQTT %s: subscribes, tells a retained message as last known and reads a fresh one',
    async (version) => {
      const port = await freePort();
      const file = join(folder, `mosquitto-${version}.conf`);
      writeFileSync(file, `listener ${port} 127.0.0.1\nallow_anonymous true\npersistence false\n`);
      await peer(MOSQUITTO, ['-v', '-c', file], /running/);
      const device = await connectAsync(`mqtt://127.0.0.1:${port}`, { protocolVersion: version === '5' ? 5 : 4 });
      await device.publishAsync('hall/now', '{"probe":{"mv":-8.4},"water":{"c":24.6}}', { retain: true });
      const channel = { kind: 'mqtt', host: '127.0.0.1', port, version, topic: 'hall/now', pointer: '/probe/mv' };
      const retained = await tryOnce({ ...channel, temperaturePointer: '/water/c', staleSeconds: 1 });
      expect(retained).toMatchObject({ ok: false, stage: 'time out' });
      expect(retained.message).toContain('the broker keeps −8.4 mV as last known, age unknown');
      const fresh = tryOnce({ ...channel, topic: 'hall/later', fixedC: 21, staleSeconds: 10 });
      const timer = setInterval(() => device.publish('hall/later', '{"probe":{"mv":12.5}}'), 100);
      expect((await fresh).reading).toMatchObject({ signal: 12.5, unit: 'mV', temperatureC: 21 });
      clearInterval(timer);
      await device.endAsync(true);
    },
  );
});

const SERVER = `
import sys
from pymodbus.datastore import ModbusSequentialDataBlock, ModbusSlaveContext, ModbusServerContext
from pymodbus.server import StartTcpServer
from pymodbus.payload import BinaryPayloadBuilder
from pymodbus.constants import Endian
b = BinaryPayloadBuilder(byteorder=Endian.Big, wordorder=Endian.Little)
b.add_32bit_float(-176.9); b.add_16bit_int(2463); b.add_32bit_uint(3000000000)
words = b.to_registers()
block = ModbusSequentialDataBlock(0, [0] * 41 + words + [0] * 20)
context = ModbusServerContext(slaves={7: ModbusSlaveContext(hr=block, ir=block, zero_mode=False)}, single=False)
print("listening", flush=True)
StartTcpServer(context=context, address=("127.0.0.1", int(sys.argv[1])))
`;

const CLIENT = `
import sys, json
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient("127.0.0.1", port=int(sys.argv[1])); c.connect()
first = c.read_input_registers(20, 5, slave=1).registers
c.write_registers(20, [0x10000 - 113, 9468], slave=1)
held = c.read_holding_registers(20, 2, slave=1).registers
c.close()
print(json.dumps({"first": first, "held": held}))
`;

describe.skipIf(!hasModbus)('pymodbus', () => {
  it('as server: our client reads its float with the low word first, its temperature, and its no', async () => {
    const port = await freePort();
    await peer(PYTHON, ['-c', SERVER, String(port)], /listening/);
    await listens(port);
    const at = { kind: 'modbus-map', host: '127.0.0.1', port, unitId: 7, table: 'holding', words: 'low-first' };
    const found = await tryOnce({
      ...at,
      register: 40,
      type: 'float32',
      temperatureRegister: 42,
      temperatureScale: 0.01,
    });
    expect(found.message).toMatch(/^It answers/);
    expect(found.reading!.signal).toBeCloseTo(-176.9, 4);
    expect(found.reading!.temperatureC).toBeCloseTo(24.63, 9);
    const beyond = await tryOnce({ ...at, register: 9000, fixedC: 25 });
    expect(beyond).toMatchObject({ ok: false, stage: 'address' });
    expect(beyond.message).toMatch(/no such register \(exception 2\)/);
    const otherUnit = await tryOnce({ ...at, unitId: 9, register: 40, fixedC: 25 });
    expect(otherUnit.ok).toBe(false);
  });

  it('as client: it reads our stand-in transmitter, writes coefficients, and reads them back', async () => {
    const written: object[] = [];
    const probe = (mv: number) => ({
      ...fixedProbe(mv, 24.63, () => ({ clockSeconds: 70_000.5 })),
      written() {
        written.push({ ...this.memory });
      },
    });
    const tcp = await transmitter([probe(0), probe(-176.9)], 20, '127.0.0.1', 0);
    const { port } = tcp.address() as AddressInfo;
    const child = spawn(PYTHON, ['-c', CLIENT, String(port)]);
    let said = '';
    child.stdout.on('data', (c: Buffer) => (said += c.toString()));
    await new Promise((resolve) => child.once('exit', resolve));
    tcp.close();
    // −1769 in two's complement; 2463; 700 005 tenths of a second as two words; status 0.
    expect(JSON.parse(said)).toEqual({ first: [63_767, 2463, 10, 44_645, 0], held: [65_423, 9468] });
    expect(written.at(-1)).toEqual({ zeroMv: -11.3, slope: 0.9468 });
  });
});

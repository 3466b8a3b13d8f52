import { fork } from 'node:child_process';
import { get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { transmitter } from '../sim/devices/transmitter.ts';
import { fixedProbe } from '../sim/testing/fixed-probe.ts';
import type { Figure } from './figure.ts';

const CHANNELS = 200;
const BENCHES = 8;
const REGISTERS = 20;
const WARM_S = 5;
const MEASURED_S = 20;

interface Measured {
  readonly cpuMs: number;
  readonly samples: number;
  readonly memoryMb: number;
}

const pause = (seconds: number) => new Promise((resolve) => setTimeout(resolve, 1000 * seconds));

/** What 200 channels at 1 Hz and 8 open benches cost the server: its own processor time, devices and browsers elsewhere. */
export async function benchLive(): Promise<Figure[]> {
  const device = await transmitter(
    Array.from({ length: CHANNELS }, (_, i) => fixedProbe(i, 25)),
    REGISTERS,
    '127.0.0.1',
    0,
  );
  const { port } = device.address() as AddressInfo;
  const child = fork(join(import.meta.dirname, 'live-server.ts'), [String(port), String(CHANNELS), String(REGISTERS)], {
    execArgv: ['--import', 'tsx'],
  });
  const said = <T>() => new Promise<T>((resolve) => child.once('message', (m) => resolve(m as T)));
  const { port: live } = await said<{ port: number }>();
  let bytes = 0;
  const benches: IncomingMessage[] = [];
  for (let i = 0; i < BENCHES; i++) {
    const id = `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`;
    benches.push(await new Promise((resolve) => get(`http://127.0.0.1:${live}/api/live?watch=${id}`, resolve)));
    // The last bench never reads: it must not cost anybody anything.
    if (i < BENCHES - 1) benches[i]!.on('data', (chunk: Buffer) => (bytes += chunk.length));
  }
  const measure = () => {
    const answer = said<Measured>();
    child.send('measure');
    return answer;
  };
  await pause(WARM_S);
  const before = await measure();
  const from = bytes;
  await pause(MEASURED_S);
  const after = await measure();
  const sent = (bytes - from) / MEASURED_S / 1024;
  child.send('stop');
  for (const bench of benches) bench.destroy();
  device.close();
  const share = (after.cpuMs - before.cpuMs) / (1000 * MEASURED_S);
  const rate = (after.samples - before.samples) / MEASURED_S;
  return [
    {
      what: `live: ${CHANNELS} Modbus channels at 1 Hz and ${BENCHES} open benches (one never reads), limit 25 % of a core`,
      value: `${(100 * share).toFixed(1)} % of a core`,
      beside: `${rate.toFixed(0)} samples a second came, ${sent.toFixed(0)} KiB a second went out, ${after.memoryMb.toFixed(0)} MiB resident`,
    },
  ];
}

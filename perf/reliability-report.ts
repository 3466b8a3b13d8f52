import { execSync, fork, type ChildProcess } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { HOSTILE_DEVICES, startDevice } from './hostile-devices.ts';
import type { Borne } from './hostile-server.ts';
import { serve, type Served } from './many-clients.ts';

/** How long each of the two goes on, s, or as long as is asked for. */
const SECONDS = Number(process.argv[2] ?? 60);
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const child = (script: string) =>
  fork(join(import.meta.dirname, script), { execArgv: ['--import', 'tsx', '--expose-gc'], stdio: ['ignore', 'inherit', 'inherit', 'ipc'] }); // prettier-ignore
const said = <T>(of: ChildProcess) => new Promise<T>((resolve) => of.once('message', (m) => resolve(m as T)));
const measured = <T>(of: ChildProcess): Promise<T> => {
  const answer = said<T>(of);
  of.send('measure');
  return answer;
};
const mb = (list: readonly { residentMb: number; heapMb: number }[]) =>
  `heap ${list.map((m) => m.heapMb.toFixed(0)).join(', ')} MiB; resident ${list.map((m) => m.residentMb.toFixed(0)).join(', ')} MiB`;

/** Sixty devices that do harm, all at once, and one honest one beside them. */
async function hostile(): Promise<string> {
  const devices = await Promise.all(HOSTILE_DEVICES.map(startDevice));
  const honest = createServer((_, response) => {
    response.setHeader('content-type', 'application/json').end('{"mv":-8.4}');
  });
  await new Promise<void>((resolve) => honest.listen(0, '127.0.0.1', resolve));
  const own = { kind: 'http-json', url: `http://127.0.0.1:${(honest.address() as AddressInfo).port}/`, pointer: '/mv', fixedC: 25, pollSeconds: 0.2 }; // prettier-ignore
  const server = child('hostile-server.ts');
  let ended: number | string | null = null;
  server.once('exit', (code, signal) => (ended = code ?? signal));
  server.send({ channels: [...HOSTILE_DEVICES.map((d, i) => d.channel(devices[i]!.port)), own] });
  const over: Borne[] = [];
  for (let s = 0; s < SECONDS; s += 10) {
    await pause(10_000);
    if (ended !== null) throw new Error(`the server ended with ${String(ended)}`);
    over.push(await measured<Borne>(server));
  }
  const last = over.at(-1)!;
  const wrong = HOSTILE_DEVICES.flatMap((d, i) => (last.samples[i] ? [`${d.name}: ${last.samples[i]}`] : []));
  const unsaid = HOSTILE_DEVICES.filter((_, i) => !last.states[i]).map((d) => d.name);
  const good = last.samples.at(-1)!;
  server.kill();
  devices.forEach((d) => d.close());
  honest.close();
  return [
    `- process ended: never; errors that nobody caught: ${last.uncaught}`,
    `- readings from hostile devices: ${wrong.length ? wrong.join('; ') : 'none'}; channels that did not say what is wrong: ${unsaid.length ? unsaid.join('; ') : 'none'}`,
    `- the honest device beside them: ${good} readings, ${(good / SECONDS).toFixed(1)} a second of 5 that were asked for; the longest turn of the event loop ${last.longestMs.toFixed(0)} ms`,
    `- every ten seconds: ${mb(over)}`,
  ].join('\n');
}

async function clients(): Promise<string> {
  const server = child('loaded-server.ts');
  const { port } = await said<{ port: number }>(server);
  const over: { residentMb: number; heapMb: number }[] = [];
  const each = async () => void over.push(await measured(server));
  const few = await serve(port, 40, SECONDS, async () => {});
  const many = await serve(port, 200, SECONDS, each);
  server.kill();
  const line = (count: number, s: Served) =>
    `| ${count} | ${s.answers} | ${s.unchanged} | ${Object.entries(s.odd).map(([status, n]) => `${status}: ${n}`).join(', ') || 'none'} | ${s.p50.toFixed(0)} | ${s.p99.toFixed(0)} | ${s.longest.toFixed(0)} |`; // prettier-ignore
  return [
    '| clients | answers | of these “unchanged” | other than 200, 201, 304 | margins, median ms | 99 % within, ms | longest, ms |',
    '| --- | --- | --- | --- | --- | --- | --- |',
    line(40, few),
    line(200, many),
    '',
    `With 200 clients, every ten seconds: ${mb(over)}.`,
  ].join('\n');
}

const commit = execSync('git rev-parse --short HEAD').toString().trim();
const page = `# Reliability

Made by \`npm run report:reliability\` at ${commit}, on ${cpus().length} × ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.versions.node}. Devices, clients and server share these processors.

## ${HOSTILE_DEVICES.length} hostile devices for ${SECONDS} s

All at once (\`perf/hostile-devices.ts\`: ${['HTTP', 'Modbus', 'MQTT'].map((k) => `${HOSTILE_DEVICES.filter((d) => d.name.startsWith(k)).length} ${k}`).join(', ')}), each asked five times a second by one server. None ever gives a reading, so each sample of one is a false reading.

${await hostile()}

## Clients of a house with 1000 loops, ${SECONDS} s

Each has loaded the page, holds the live stream open and asks for Margins every second, for 12 cones every five, for alarms every ten and for a sensor every twenty; every five seconds one of them notes something, so that Margins change for all.

${await clients()}

## Requests that mean harm

\`npm run report:fuzz\`: 20 000 requests over the route table, drawn from a seed; see [what could do harm](security.md).
`;
// What other scripts have found stands behind it, and stays.
const FILE = join(import.meta.dirname, '../docs/reliability.md');
const before = readFileSync(FILE, 'utf8');
const rest = before.indexOf('## Nothing acknowledged is lost');
writeFileSync(FILE, `${page}${rest < 0 ? '' : `\n${before.slice(rest)}`}`);
process.stdout.write(page);
process.exit(0);

import { createServer, request as send, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { MarginsView, RunView, ShelfView } from '@frustum/contract';
import { makeApp } from './app.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { RESERVOIR } from './testing/cast.ts';
import { fuzz, routesOf, type FuzzRequest } from './testing/fuzz.ts';

/** Requests here, and in the long form of `npm run report:fuzz`. */
const COUNT = Number(process.env['FRUSTUM_FUZZ'] ?? 250);
const SEED = Number(process.env['FRUSTUM_FUZZ_SEED'] ?? 4870);

const PATIENCE_MS = 10_000;
const NEVER = -1;

let house: TestApplication;
let server: Server;
beforeAll(async () => {
  house = await testApplication();
  server = createServer(makeApp(house.context, null, COUNT + 100));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await house.close();
});

/** Sends it as it is, and gives status and text; status 0 where the line was cut without an answer. */
function answerTo({ method, path, headers, body }: FuzzRequest): Promise<{ status: number; text: string }> {
  return new Promise((resolve) => {
    const cut = () => resolve({ status: 0, text: '' });
    // A body that says how long it is, unless its headers lie.
    const length = body === null ? {} : { 'content-length': Buffer.byteLength(body) };
    const outgoing = send(
      {
        host: '127.0.0.1',
        port: (server.address() as AddressInfo).port,
        method,
        path,
        headers: { ...length, ...headers },
        agent: false,
      },
      (response) => {
        let text = '';
        response.setEncoding('utf8');
        response.on('data', (piece: string) => (text += piece));
        response.on('end', () => resolve({ status: response.statusCode ?? 0, text }));
        response.on('error', cut);
      },
    );
    outgoing.on('error', cut);
    outgoing.setTimeout(PATIENCE_MS, () => {
      resolve({ status: NEVER, text: '' });
      outgoing.destroy();
    });
    outgoing.end(body ?? undefined);
  });
}

/** What no answer may say: the database's, the library's and the machine's own words. */
const LEAKED = /select |insert into|violates|constraint|\bat .*\.(js|ts):\d|node_modules|stack|syntax for type|yup/i;

it(`${COUNT} requests that mean harm or are slips: none ends in a 500, none is answered in the database’s words (seed ${SEED})`, async () => {
  const app = () => request(house.app);
  await app().post('/api/sensors').send(RESERVOIR);
  const [row] = ((await app().get('/api/margins')).body as MarginsView).rows;
  const order = {
    sensorId: row!.sensorId,
    points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
    school: 'statistical',
  };
  const { runId } = (await app().post('/api/runs').send(order)).body as RunView;
  const shelf = (await app().get('/api/shelf')).body as ShelfView;
  const ids: Record<string, string> = {
    sensorId: row!.sensorId,
    loopId: row!.loopId,
    channelId: row!.channelId,
    runId,
    lotId: shelf.lots[0]?.lotId ?? runId,
    alarmId: runId,
    procedureId: runId,
    photoId: runId,
  };
  const trouble: string[] = [];
  const statuses = new Map<number, number>();
  const routes = routesOf((await app().get('/api/openapi.json')).body as Parameters<typeof routesOf>[0]);
  expect(routes.length).toBeGreaterThan(40);
  const source = fuzz(routes, ids, SEED);
  for (let i = 0; i < COUNT; i++) {
    const sent = source.next().value as FuzzRequest;
    const { status, text } = await answerTo(sent);
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    const shown = `${sent.method} ${sent.path.slice(0, 120)} ${JSON.stringify(sent.headers)} ${sent.body?.slice(0, 300)}`;
    if (status === 500 || status === 501 || status === NEVER) trouble.push(`${status}: ${shown}`);
    else if (status >= 400 && LEAKED.test(text)) trouble.push(`says ${text.slice(0, 200)}: ${shown}`);
    // Without a word answers only what is in front of us: a request that is no HTTP.
    else if (status >= 400 && text !== '' && !text.includes('"detail"'))
      trouble.push(`${status} without words: ${shown}`);
  }
  console.log(
    [...statuses]
      .sort(([a], [b]) => a - b)
      .map(([s, n]) => `${s}: ${n}`)
      .join(', '),
  );
  expect(trouble.slice(0, 40)).toEqual([]);
  // The house still stands: it answers, and the run that was begun is there.
  expect((await app().get(`/api/runs/${runId}`)).status).toBe(200);
});

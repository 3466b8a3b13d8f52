/** A whole server on a database that passes, with a house of a thousand loops, in a process of its own. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { makeApp } from '../server/app.ts';
import { testApplication } from '../server/testing/application.ts';
import { fillHouse } from './margins-load.ts';
import { readMargins } from '../server/services/margins/margins.ts';

const application = await testApplication();
application.setNow('2026-11-25T09:00:00Z');
await fillHouse(application);
await readMargins(application.context);
const server = createServer(makeApp(application.context, join(import.meta.dirname, '../web/dist')));
server.listen(0, '127.0.0.1', () => process.send!({ port: (server.address() as AddressInfo).port }));
process.on('message', () => {
  global.gc?.();
  const { rss, heapUsed } = process.memoryUsage();
  process.send!({ residentMb: rss / 2 ** 20, heapMb: heapUsed / 2 ** 20 });
});

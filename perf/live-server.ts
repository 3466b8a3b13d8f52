/**
 * The server's live part alone, in a process of its own, so that what it costs can be read off: a poller with many
 * channels, the hub, the stream and the recorder. Told what to do by its parent.
 */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { channelSchema } from '@frustum/contract';
import { LiveHub } from '../server/channels/live-hub.ts';
import { Poller } from '../server/channels/poller.ts';
import { Recorder } from '../server/channels/recorder.ts';
import type { Context } from '../server/context.ts';
import { live } from '../server/routes/live.ts';

const [, , devicePort, count, registers] = process.argv;
const hub = new LiveHub();
const poller = new Poller(hub);
const minutes: number[] = [];
const recorder = new Recorder(hub, async (kept) => void minutes.push(kept.length), Date.now);
let samples = 0;
hub.listen(({ message }) => (samples += Number(message.event === 'sample')));
const app = express();
const over = new AbortController().signal;
app.get('/api/live', live({ hub, poller, over, onChange: () => () => undefined } as unknown as Context));
const http = createServer(app);
const idOf = (i: number) => `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`;

http.listen(0, '127.0.0.1', () => {
  for (let i = 0; i < Number(count); i++) {
    const map = {
      host: '127.0.0.1',
      port: Number(devicePort),
      register: i * Number(registers),
      scale: 0.1,
      fixedC: 25,
    };
    poller.add(idOf(i), channelSchema.cast({ kind: 'modbus-map', ...map, pollSeconds: 1 }));
    // The pace of a channel that somebody looks at: once a second, all of them.
    hub.watch([idOf(i)]);
  }
  process.send?.({ port: (http.address() as AddressInfo).port });
});

process.on('message', (what) => {
  if (what === 'measure') {
    const { user, system } = process.cpuUsage();
    process.send?.({ cpuMs: (user + system) / 1000, samples, memoryMb: process.memoryUsage().rss / 2 ** 20 });
  } else {
    poller.stop();
    recorder.stop();
    process.exit(0);
  }
});

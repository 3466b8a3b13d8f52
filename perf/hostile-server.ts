/** The server's reading of devices alone, in a process of its own: a poller with the channels that its parent names, and the hub. */
import { channelSchema } from '@frustum/contract';
import { LiveHub } from '../server/channels/live-hub.ts';
import { Poller } from '../server/channels/poller.ts';

/** What the parent is told. */
export interface Borne {
  /** samples of each channel, in the order of the channels */
  readonly samples: readonly number[];
  /** states that were told of each channel, without a break alike ones counted once */
  readonly states: readonly number[];
  readonly uncaught: number;
  readonly residentMb: number;
  readonly heapMb: number;
  /** the longest that one turn of the event loop took, ms */
  readonly longestMs: number;
}

const hub = new LiveHub();
const poller = new Poller(hub);
const idOf = (i: number) => `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`;
let [samples, states]: [number[], number[]] = [[], []];
let uncaught = 0;
hub.listen(({ message }) => {
  const counts = message.event === 'sample' ? samples : states;
  const i = Number(message.data.channelId.slice(-12));
  counts[i] = (counts[i] ?? 0) + 1;
});
for (const kind of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(kind, (error: unknown) => {
    uncaught++;
    process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`);
    poller.restart();
  });
let [longestMs, lastMs] = [0, performance.now()];
setInterval(() => {
  const now = performance.now();
  longestMs = Math.max(longestMs, now - lastMs - 10);
  lastMs = now;
}, 10);

process.on('message', (told: { readonly channels: readonly object[] } | 'measure') => {
  if (told === 'measure') {
    global.gc?.();
    const { rss, heapUsed } = process.memoryUsage();
    const borne: Borne = {
      samples,
      states,
      uncaught,
      residentMb: rss / 2 ** 20,
      heapMb: heapUsed / 2 ** 20,
      longestMs,
    };
    process.send!(borne);
    return;
  }
  [samples, states] = [told.channels.map(() => 0), told.channels.map(() => 0)];
  hub.watch(told.channels.map((_, i) => idOf(i)));
  told.channels.forEach((channel, i) => poller.add(idOf(i), channelSchema.cast(channel, { assert: false })));
});

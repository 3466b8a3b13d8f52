/** Everything that lives on one open database: services, channels, alarms, the HTTP application. Opened, and closed again. */
import { existsSync, readFileSync, statfsSync } from 'node:fs';
import type { RequestListener } from 'node:http';
import { join } from 'node:path';
import { CATALOGUE, Refusal } from '@frustum/core';
import { decodeBundle } from '@frustum/formats';
import { makeApp } from './app.ts';
import { Recorder } from './channels/recorder.ts';
import type { Config } from './config/config.ts';
import { makeContext, type Context } from './context.ts';
import { AlarmWatch } from './services/alarms/watch.ts';
import { Backups } from './services/backups/backups.ts';
import { readMargins } from './services/margins/margins.ts';
import { loadBundle } from './services/house/load-bundle.ts';
import { keepReadings } from './services/channels/readings.ts';
import { LOCAL_OPERATOR } from './person.ts';
import { SystemClock } from './services/running/system-clock.ts';
import { lastAlive, noteAlive } from './store/alive.ts';
import type { FolderLock } from './store/folder-lock.ts';
import { openStore } from './store/open.ts';

/** Whether there is enough new to learn from is not asked more often than this, ms. */
const LEARN_EVERY_MS = 60_000;
/** The computer's clock is looked at so often, and that the server runs is noted once a minute, ms. */
const LOOK_AT_CLOCK_MS = 5000;
const ALIVE_EVERY_MS = 60_000;
/** Whether it is time for a snapshot is looked at so often, ms. */
const LOOK_FOR_SNAPSHOT_MS = 60_000;
/** With less room than this the database cannot open, bytes. */
const ROOM_TO_OPEN = 20_000_000;
/** Taking leave of webhook and broker takes this long at most, ms. */
const TAKE_LEAVE_MS = 3000;

const OPERATOR = { id: '00000000-0000-4000-8000-000000000001', name: LOCAL_OPERATOR, role: 'operator' as const };

/** Where the built server lies: server/dist. */
const here = import.meta.dirname;
const built = import.meta.filename.endsWith('.js');
const root = built ? join(here, '..') : here;

export const STORE_WORKER = new URL(built ? './store-worker.js' : './store/worker.ts', import.meta.url);
const BUILD_WORKER = new URL(built ? './build-worker.js' : './store/build-worker.ts', import.meta.url);
export { EMPTY as EMPTY_DATABASE } from './store/empty-copy.ts';
export const MIGRATIONS = join(root, 'store/migrations');

export interface OpenHouse {
  readonly app: RequestListener;
  readonly context: Context;
  /**
   * Starts reading channels, telling, learning and looking at alarms. Pages are answered before any device is read: a device that
   * crashes the server can then be switched off.
   */
  readonly begin: () => Promise<void>;
  readonly close: () => Promise<void>;
}

export interface OpeningOptions {
  readonly lock: Pick<FolderLock, 'held' | 'file' | 'token'>;
  /** channels are not read before somebody says so */
  readonly holdsBack: boolean;
  /** closes this house, does something with its files, and opens it again */
  readonly reopen: (work: () => Promise<void>) => Promise<void>;
  /** the folder has been taken by somebody else */
  readonly onLost: (why: Refusal) => void;
}

const say = (sentence: string) => void process.stdout.write(`${sentence}\n`);

/** Opens the store, or says that the disk is full where that is why it cannot be. */
const storeOf = (config: Config, options: OpeningOptions, onTrouble: (trouble: Refusal | null) => void) =>
  openStore(
    STORE_WORKER,
    {
      dataFolder: config.dataFolder,
      migrations: MIGRATIONS,
      holder: { file: options.lock.file, token: options.lock.token },
    },
    (trouble) => (trouble?.code === 'folder-lost' ? options.onLost(trouble) : onTrouble(trouble)),
    say,
  ).catch((error: unknown) => {
    const { bavail, bsize } = statfsSync(config.dataFolder);
    if (bavail * bsize > ROOM_TO_OPEN) throw error;
    throw new Refusal(
      'disk-full',
      `The disk with ${config.dataFolder} is full, and the database cannot be opened on it. Nothing is lost. Make room, then start again.`,
    );
  });

/** Looks after what may change under the house: its folder, the clock, room on the disk, and when a snapshot is due. */
function watchers(context: Context, { lock, onLost }: OpeningOptions, clock: SystemClock, aliveFile: string) {
  let doubted = clock.doubt;
  const look = () => {
    if (!lock.held()) return onLost(new Refusal('folder-lost', 'The data folder was taken by another process.'));
    const atMs = context.now();
    // Whether there is room again: something small that changes nothing.
    if (context.wellBeing.trouble) void context.store.keepUsers([OPERATOR]).catch(() => undefined);
    // A minute is enough to know from when to when nothing was watched.
    if (!clock.doubt && atMs - (lastAlive(aliveFile) ?? 0) >= ALIVE_EVERY_MS) noteAlive(aliveFile, atMs);
    if (doubted === clock.doubt) return;
    doubted = clock.doubt;
    context.changed();
  };
  return [
    setInterval(look, LOOK_AT_CLOCK_MS),
    setInterval(() => void context.backups?.whenDue(), LOOK_FOR_SNAPSHOT_MS),
  ];
}

/** What is written at the start is there already after the first one: a full disk keeps nobody from looking. */
const ifItCan = (context: Context, written: Promise<unknown>) =>
  written.catch((error: unknown) => {
    if (!(error instanceof Refusal)) throw error;
    context.wellBeing.note(error);
  });

/** What every house has: the catalogue and its operator, and in the demo a year and a half of history. */
async function furnish(context: Context): Promise<void> {
  const { store, config } = context;
  await ifItCan(context, store.keepStandards(CATALOGUE));
  await ifItCan(context, store.keepUsers([OPERATOR]));
  if (!config.demoBundle || (await store.readFittedLoops()).length || !existsSync(config.demoBundle)) return;
  say('Loading a year and a half of demo history …');
  await loadBundle(context, decodeBundle(readFileSync(config.demoBundle, 'utf8')));
}

/** Learns from the fleet now, and whenever enough has been found that is new. */
function learning(context: Context, isClosing: () => boolean): () => Promise<void> {
  let lookedAtMs = -Infinity;
  return async () => {
    if (performance.now() - lookedAtMs < LEARN_EVERY_MS) return;
    lookedAtMs = performance.now();
    try {
      if (await context.fleets.learn(context.store)) context.changed();
      // The next reader of Margins then finds the cones ready.
      await readMargins(context);
    } catch (error) {
      if (!isClosing()) context.log.warn({ error }, 'nothing was learned from the fleet');
    }
  };
}

/** Reads every channel, or holds all of them back until somebody says so. */
async function readChannels({ store, poller }: Context, holdsBack: boolean): Promise<void> {
  for (const { channel, sensor } of await store.readFittedLoops()) {
    if (holdsBack) poller.holdBack(channel.id, channel.config, sensor.fittedOn);
    else poller.add(channel.id, channel.config, sensor.fittedOn);
  }
}

export async function openHouse(config: Config, options: OpeningOptions): Promise<OpenHouse> {
  let tellTrouble: (trouble: Refusal | null) => void = () => {};
  const { store, thread, close } = await storeOf(config, options, (trouble) => tellTrouble(trouble));
  const aliveFile = join(config.dataFolder, 'alive.json');
  const wasAliveMs = lastAlive(aliveFile);
  const newest = [await store.readNewest(), wasAliveMs].filter((ms) => ms !== null);
  const clock = new SystemClock(newest.length ? Math.max(...newest) : null);
  const over = new AbortController();
  const backups = new Backups(
    config,
    { thread, migrations: MIGRATIONS, buildWorker: BUILD_WORKER, reopen: options.reopen },
    (what) => context.log.warn(what),
  );
  const context: Context = makeContext(config, store, { clock, backups, over: over.signal });
  tellTrouble = (trouble) => {
    if (trouble) context.log.error({ code: trouble.code }, 'the database thread has ended');
    context.wellBeing.heard(trouble);
  };
  const recorder = new Recorder(context.hub, (minutes) => keepReadings(context, minutes), context.now);
  const timers = watchers(context, options, clock, aliveFile);
  let stopAlarms = () => {};
  let closing = false;
  await furnish(context);
  await thread.begun();
  await context.fleets.recall(store);
  const learn = learning(context, () => closing);
  return {
    app: makeApp(context, join(root, '../web/dist')),
    context,
    async begin() {
      await readChannels(context, options.holdsBack);
      await ifItCan(context, context.teller.start(wasAliveMs));
      context.onChange(() => void learn());
      void learn().then(() => {
        // An alarm of a cone that is narrower a moment later would be over before anybody has looked.
        if (!closing) stopAlarms = new AlarmWatch(context).start();
      });
    },
    async close() {
      closing = true;
      timers.forEach((timer) => clearInterval(timer));
      if (!clock.doubt) noteAlive(aliveFile, context.now());
      context.poller.stop();
      recorder.stop();
      stopAlarms();
      over.abort();
      // A slow webhook or broker must not delay the end.
      await Promise.race([context.teller.stop(), new Promise((resolve) => setTimeout(resolve, TAKE_LEAVE_MS))]);
      await recorder.flush(true);
      await close().catch(() => undefined);
    },
  };
}

/** Reads the environment, builds the context, listens, and stops cleanly. */
import { copyFileSync, existsSync, readFileSync, statfsSync, statSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import { join } from 'node:path';
import { CATALOGUE, Refusal } from '@frustum/core';
import { decodeBundle } from '@frustum/formats';
import { makeApp } from './app.ts';
import { Recorder } from './channels/recorder.ts';
import { checkConfig, type Config } from './config/config.ts';
import { readEnv } from './config/env.ts';
import { makeContext } from './context.ts';
import { loadBundle } from './services/load-bundle.ts';
import { AlarmWatch } from './services/alarms.ts';
import { keepReadings } from './services/readings.ts';
import { recover } from './services/recover.ts';
import { SystemClock } from './services/system-clock.ts';
import { LOCAL_OPERATOR } from './services/run-events.ts';
import { lastAlive, noteAlive } from './store/alive.ts';
import { lockFolder } from './store/folder-lock.ts';
import { openJournal, readJournal } from './store/journal.ts';
import { openStore } from './store/open.ts';
import { noteStart } from './store/starts.ts';
import { survivor } from './uncaught.ts';

/** Whether there is enough new to learn from is not asked more often than this, ms. */
const LEARN_EVERY_MS = 60_000;
/** Longer than what is usual in front of a server. */
const KEEP_ALIVE_MS = 75_000;

/** The computer's clock is looked at so often, and that the server runs is noted once a minute, ms. */
const LOOK_AT_CLOCK_MS = 5000;
const ALIVE_EVERY_MS = 60_000;

const OPERATOR = { id: '00000000-0000-4000-8000-000000000001', name: LOCAL_OPERATOR, role: 'operator' as const };

/** With less room than this the database cannot open, bytes. */
const ROOM_TO_OPEN = 20_000_000;

/** Taking leave of webhook and broker takes this long at most, ms. */
const TAKE_LEAVE_MS = 3000;

/** A start that ends before is one that died soon, ms; after so many in a row no channel is read before somebody says so. */
const LIVES_AFTER_MS = 60_000;
const MOST_EARLY_DEATHS = 2;

/** A journal larger than this begins anew at the next start. */
const JOURNAL_BYTES = 5_000_000;

/** Where the built server lies: server/dist. */
const here = import.meta.dirname;
const built = import.meta.filename.endsWith('.js');
const root = built ? join(here, '..') : here;

/** Somebody has said that it should end. */
let stopping = false;

async function main(): Promise<void> {
  // What the database and everybody else here writes is for nobody else on this computer.
  process.umask(0o077);
  const wanted = checkConfig(readEnv(process.env));
  const since = new Date().toISOString();
  let app: RequestListener | null = null;
  /** who came while the database was opening: answered as soon as it is, instead of never */
  const early: Parameters<RequestListener>[] = [];
  // A browser or a proxy that keeps a connection for a minute must not meet one that has just been closed.
  const http = createServer({ keepAliveTimeout: KEEP_ALIVE_MS }, (request, response) => {
    if (app) app(request, response);
    else early.push([request, response]);
  });
  // The port first: it is the quickest to refuse, and nothing has to be undone then.
  const port = await new Promise<number>((resolve, reject) => {
    http.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Refusal(
              'port-in-use',
              `Port ${wanted.port} is in use on ${wanted.host}. Stop what listens there, or set PORT to another one, such as PORT=${wanted.port + 10}.`,
            )
          : error,
      ),
    );
    http.listen(wanted.port, wanted.host, () => resolve((http.address() as { port: number }).port));
  });
  // Port 0 asks the system for one: from here on it is known.
  const config: Config = { ...wanted, port };
  const url = `http://${config.host === '::1' ? '[::1]' : 'localhost'}:${port}`;
  const unlock = await lockFolder(config.dataFolder, since, url);
  const start = noteStart(join(config.dataFolder, 'starts.json'), since);
  let tellTrouble: (trouble: Refusal | null) => void = () => {};
  const { store, close } = await openStore(
    new URL(built ? './store-worker.js' : './store/worker.ts', import.meta.url),
    {
      folder: join(config.dataFolder, 'database'),
      migrations: join(root, 'store/migrations'),
    },
    (trouble) => tellTrouble(trouble),
  ).catch((error: unknown) => {
    const { bavail, bsize } = statfsSync(config.dataFolder);
    if (bavail * bsize > ROOM_TO_OPEN) throw error;
    throw new Refusal(
      'disk-full',
      `The disk with ${config.dataFolder} is full, and the database cannot be opened on it. Nothing is lost. Make room, then start again.`,
    );
  });
  const journalFile = join(config.dataFolder, 'journal.ndjson');
  const { entries, unreadable } = readJournal(journalFile);
  if (unreadable) {
    const aside = `${journalFile}.${since.replace(/\D/g, '')}`;
    copyFileSync(journalFile, aside);
    process.stderr.write(`${unreadable} lines of the journal cannot be read. A copy is kept in ${aside}.\n`);
  }
  const journal = await openJournal(journalFile);
  const aliveFile = join(config.dataFolder, 'alive.json');
  const wasAliveMs = lastAlive(aliveFile);
  const newest = [await store.readNewest(), wasAliveMs].filter((ms) => ms !== null);
  const clock = new SystemClock(newest.length ? Math.max(...newest) : null);
  const context = makeContext(config, store, { journal, clock });
  tellTrouble = (trouble) => {
    if (trouble) context.log.error({ code: trouble.code }, 'the database thread has ended');
    context.wellBeing.heard(trouble);
  };
  const recorder = new Recorder(context.hub, (minutes) => keepReadings(context, minutes), context.now);

  const onUncaught = survivor(context.log, () => context.poller.restart(), () => process.exit(1)); // prettier-ignore
  process.on('uncaughtException', onUncaught);
  process.on('unhandledRejection', onUncaught);

  let stopAlarms = () => {};
  let doubted = clock.doubt;
  const aliveTimer = setInterval(() => {
    const atMs = context.now();
    // Whether there is room again: something small that changes nothing.
    if (context.wellBeing.trouble) void context.store.keepUsers([OPERATOR]).catch(() => undefined);
    // A minute is enough to know from when to when nothing was watched.
    if (!clock.doubt && atMs - (lastAlive(aliveFile) ?? 0) >= ALIVE_EVERY_MS) noteAlive(aliveFile, atMs);
    if (doubted === clock.doubt) return;
    doubted = clock.doubt;
    context.changed();
  }, LOOK_AT_CLOCK_MS);
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    start.lives();
    clearInterval(aliveTimer);
    if (!clock.doubt) noteAlive(aliveFile, context.now());
    context.poller.stop();
    recorder.stop();
    stopAlarms();
    // Whoever is told does not hold up the end.
    await Promise.race([context.teller.stop(), new Promise((resolve) => setTimeout(resolve, TAKE_LEAVE_MS))]);
    await recorder.flush(true);
    http.closeAllConnections();
    http.close();
    await close().catch(() => undefined);
    await journal.close();
    await unlock();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
  // Started by a script: when that is gone, so are we.
  process.on('disconnect', () => void stop());

  // What is written at the start is there already after the first one: a full disk keeps nobody from looking.
  const ifItCan = (written: Promise<unknown>) =>
    written.catch((error: unknown) => {
      if (!(error instanceof Refusal)) throw error;
      context.wellBeing.note(error);
    });
  await ifItCan(context.store.keepStandards(CATALOGUE));
  await ifItCan(context.store.keepUsers([OPERATOR]));
  const back = await recover(context, entries);
  if (back) process.stdout.write(`${back} events came back from the journal.\n`);
  // What is older has long been written to the disk by the system.
  if (existsSync(journalFile) && statSync(journalFile).size > JOURNAL_BYTES) await journal.clear();
  const fitted = await store.readFittedLoops();
  if (config.demoBundle && !fitted.length && existsSync(config.demoBundle)) {
    process.stdout.write('Loading a year and a half of demo history …\n');
    await loadBundle(context, decodeBundle(readFileSync(config.demoBundle, 'utf8')));
  }
  await context.fleets.recall(store);
  app = makeApp(context, join(root, '../web/dist'));
  for (const [request, response] of early.splice(0)) app(request, response);
  // Whoever looks is answered before a device is: one that ends the server can then be found, and switched off.
  const holdsBack = start.diedSoon >= MOST_EARLY_DEATHS && !config.pollAlways;
  for (const { channel, sensor } of fitted) {
    if (holdsBack) context.poller.holdBack(channel.id, channel.config, sensor.fittedOn);
    else context.poller.add(channel.id, channel.config, sensor.fittedOn);
  }
  setTimeout(start.lives, LIVES_AFTER_MS).unref();
  await ifItCan(context.teller.start(wasAliveMs));
  process.stdout.write(`Frustum is at ${url}\n`);
  process.send?.({ ready: true, url });
  // Now, and whenever enough has been found that is new.
  let lookedAtMs = -Infinity;
  const learn = async () => {
    if (performance.now() - lookedAtMs < LEARN_EVERY_MS) return;
    lookedAtMs = performance.now();
    try {
      if (await context.fleets.learn(store)) context.changed();
      // Whoever opens Margins next finds the cones made.
      await context.margins.read(context);
    } catch (error) {
      if (!stopping) context.log.warn({ error }, 'nothing was learned from the fleet');
    }
  };
  context.onChange(() => void learn());
  await learn();
  // An alarm of a cone that is narrower a moment later would be over before anybody has looked.
  if (!stopping) stopAlarms = new AlarmWatch(context).start();
}

main().catch((error: unknown) => {
  // Stopped while it started: what it was about to do then fails, and does not matter.
  if (stopping) return;
  const text =
    error instanceof Error
      ? error instanceof Refusal
        ? error.message
        : (error.stack ?? error.message)
      : String(error);
  process.stderr.write(`${text}\n`);
  process.exit(1);
});

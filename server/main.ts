/** Reads the environment, listens, takes the data folder, opens the house in it, and stops cleanly. */
import { createServer, type RequestListener, type Server } from 'node:http';
import { join } from 'node:path';
import { Refusal } from '@frustum/core';
import { checkConfig, type Config } from './config/config.ts';
import { readEnv } from './config/env.ts';
import { openHouse, type OpenHouse, type OpeningOptions } from './open-house.ts';
import { errorOf } from './store/failures.ts';
import { lockFolder } from './store/folder-lock.ts';
import { noteStart } from './store/starts.ts';
import { survivor } from './uncaught.ts';

/** Longer than what is usual in front of a server. */
const KEEP_ALIVE_MS = 75_000;

/** A start that ends before is one that died soon, ms; after so many in a row no channel is read before somebody says so. */
const LIVES_AFTER_MS = 60_000;
const MAX_EARLY_DEATHS = 2;

/** Somebody has said that it should end. */
let stopping = false;

/** @returns the port, which the system chose for 0. @throws Refusal `port-in-use` */
const listen = (http: Server, { host, port }: Config): Promise<number> =>
  new Promise((resolve, reject) => {
    http.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Refusal(
              'port-in-use',
              `Port ${port} is in use on ${host}. Stop what listens there, or set PORT to a free one, such as PORT=${port + 10}.`,
            )
          : error,
      ),
    );
    http.listen(port, host, () => resolve((http.address() as { port: number }).port));
  });

/** Ends when somebody says so, or when the script that started us is gone. */
function stopOn(stop: () => Promise<void>): void {
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
  process.on('disconnect', () => void stop());
}

/** What nobody caught: noted, and every wire opened anew; too often, and the process ends. */
function survive(house: () => OpenHouse | null): void {
  const onUncaught = survivor(
    { error: (...what: Parameters<OpenHouse['context']['log']['error']>) => house()?.context.log.error(...what) },
    () => house()?.context.poller.restart(),
    () => process.exit(1),
  );
  process.on('uncaughtException', onUncaught);
  process.on('unhandledRejection', onUncaught);
}

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
  const port = await listen(http, wanted);
  // Port 0 asks the system for one: from here on it is known.
  const config: Config = { ...wanted, port };
  const url = `http://${config.host === '::1' ? '[::1]' : 'localhost'}:${port}`;
  const lock = await lockFolder(config.dataFolder, since, url);
  const start = noteStart(join(config.dataFolder, 'starts.json'), since);

  let house: OpenHouse | null = null;
  const options: OpeningOptions = {
    lock,
    holdsBack: start.diedSoon >= MAX_EARLY_DEATHS && !config.pollAlways,
    async reopen(work) {
      app = null;
      await house?.close();
      house = null;
      try {
        await work();
      } finally {
        await open().catch(failed);
      }
    },
    onLost(why) {
      process.stderr.write(`${why.message}\n`);
      process.exit(1);
    },
  };
  const open = async () => {
    const opened = await openHouse(config, options);
    house = opened;
    app = opened.app;
    for (const [request, response] of early.splice(0)) app(request, response);
    await opened.begin();
  };

  const stop = async () => {
    if (stopping) return;
    stopping = true;
    start.lives();
    app = null;
    http.close();
    await house?.close();
    http.closeAllConnections();
    await lock.unlock();
    process.exit(0);
  };
  stopOn(stop);

  await open();
  survive(() => house);
  setTimeout(start.lives, LIVES_AFTER_MS).unref();
  process.stdout.write(`Frustum is at ${url}\n`);
  process.send?.({ ready: true, url });
}

main().catch(failed);

function failed(error: unknown): void {
  // Stopped while it started: what it was about to do then fails, and does not matter.
  if (stopping) return;
  process.stderr.write(`${error instanceof Refusal ? error.message : errorOf(error).stack}\n`);
  process.exit(1);
}

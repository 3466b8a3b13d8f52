import { fork, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SHORT_LIVED } from '../../scripts/lib/short-lived.mjs';
import { copyHouse, pointChannels } from './copied-house.ts';

const root = join(import.meta.dirname, '../..');

/**
 * How fast the test house lives. One sample of a transmitter is 3 s of the house's time, as at the pace of 200 ms and 15
 * times: settling then sees the same samples, sooner.
 */
const HOUSE = { clockRate: 40, watchedMs: 75 } as const;

interface Part {
  readonly child: ChildProcess;
  readonly first: Record<string, string>;
}

/** Starts one built part and waits for its first message. */
function startPart(script: string, env: Record<string, string>): Promise<Part> {
  const child = fork(join(root, script), {
    cwd: root,
    execArgv: [...SHORT_LIVED],
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
  });
  let errors = '';
  child.stderr?.on('data', (chunk: Buffer) => (errors += chunk.toString()));
  return new Promise((resolve, reject) => {
    child.once('message', (first) => resolve({ child, first: first as Record<string, string> }));
    child.once('exit', (code) => reject(new Error(`${script} ended with ${code}: ${errors}`)));
  });
}

export interface Application {
  readonly url: string;
  /** what the stand-in controller answers on; '' without the demo house */
  readonly jsonUrl: string;
  /** where the stand-in monitor's broker listens; '' likewise */
  readonly mqttUrl: string;
  /** the bench thermometer and photometer; '' likewise */
  readonly instrumentsUrl: string;
  readonly folder: string;
  readonly server: ChildProcess;
  /** pulls the plug of all devices at once, and gives what plugs them in again, where they were */
  readonly pullPlug: () => Promise<() => Promise<void>>;
  /** kills the server as a power cut does, and gives what starts it again, on its port */
  readonly killServer: () => Promise<() => Promise<void>>;
  readonly stop: () => Promise<void>;
}

const portIn = (url = '') => /:(\d+)/.exec(url)?.[1] ?? '0';

/**
 * An application of its own on free ports, with or without the demo house.
 *
 * @param options.clockRate how many times faster than a clock the house runs
 */
export async function startApplication(options: {
  demo: boolean;
  folder?: string;
  /** a stopped demo house: the new one begins as its copy */
  template?: string;
  clockRate?: number;
}): Promise<Application> {
  const { template } = options;
  const folder = options.folder ?? (template ? copyHouse(template) : mkdtempSync(join(tmpdir(), 'frustum-e2e-')));
  const env: Record<string, string> = {
    FRUSTUM_DATA: folder,
    PORT: '0',
    FRUSTUM_WATCHED_MS: String(HOUSE.watchedMs),
    FRUSTUM_POLL_ALWAYS: '1',
  };
  const house: Record<string, string> = {
    FRUSTUM_DATA: folder,
    FRUSTUM_HANDS_PORT: '0',
    FRUSTUM_JSON_PORT: '0',
    FRUSTUM_MQTT_PORT: '0',
    FRUSTUM_MULTIPROBE_PORT: '0',
    FRUSTUM_INSTRUMENTS_PORT: '0',
    FRUSTUM_MODBUS_PORT: '0',
    FRUSTUM_CLOCK_RATE: String(options.clockRate ?? HOUSE.clockRate),
    FRUSTUM_SEED: '4870',
  };
  const stand = options.demo ? await startPart('sim/dist/main.js', house) : null;
  if (stand) {
    house['FRUSTUM_HANDS_PORT'] = portIn(stand.first['handsUrl']);
    Object.assign(env, {
      FRUSTUM_DEMO_BUNDLE: stand.first['bundleFile']!,
      FRUSTUM_HANDS_URL: stand.first['handsUrl']!,
    });
  }
  if (template) await pointChannels(template, folder);
  const server = await startPart('server/dist/main.js', env);
  const { url } = server.first;
  env['PORT'] = portIn(url);
  const running = { stand: stand?.child ?? null, server: server.child };
  return {
    url: url!,
    jsonUrl: stand?.first['jsonUrl'] ?? '',
    mqttUrl: stand?.first['mqttUrl'] ?? '',
    instrumentsUrl: stand?.first['instrumentsUrl'] ?? '',
    folder,
    server: server.child,
    pullPlug: async () => {
      await ended(running.stand!, 'SIGKILL');
      return async () => {
        running.stand = (await startPart('sim/dist/main.js', house)).child;
      };
    },
    killServer: async () => {
      await ended(running.server, 'SIGKILL');
      return async () => {
        running.server = (await startPart('server/dist/main.js', env)).child;
      };
    },
    stop: async () => {
      await Promise.all([running.stand, running.server].map((child) => (child ? ended(child) : Promise.resolve())));
      if (!options.folder) rmSync(folder, { recursive: true, force: true });
    },
  };
}

function ended(child: ChildProcess, signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill(signal);
  });
}

/**
 * A house of a story's own: a copy of the demo house that the first story found, so that no story waits for its history.
 */
export const houseOfItsOwn = (): Promise<Application> =>
  startApplication({ demo: true, template: process.env['FRUSTUM_TEMPLATE']! });

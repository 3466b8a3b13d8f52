import { fork, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../..');

interface Part {
  readonly child: ChildProcess;
  readonly first: Record<string, string>;
}

/** Starts one built part and waits for its first message. */
export function startPart(script: string, env: Record<string, string>): Promise<Part> {
  const child = fork(join(root, script), {
    cwd: root,
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
  readonly folder: string;
  readonly server: ChildProcess;
  readonly stop: () => Promise<void>;
}

/** An application of its own on free ports, with or without the demo house. */
export async function startApplication(options: { demo: boolean; folder?: string }): Promise<Application> {
  const folder = options.folder ?? mkdtempSync(join(tmpdir(), 'frustum-e2e-'));
  const env: Record<string, string> = { FRUSTUM_DATA: folder, PORT: '0' };
  const parts: Part[] = [];
  let jsonUrl = '';
  let mqttUrl = '';
  if (options.demo) {
    const stand = await startPart('sim/dist/main.js', {
      FRUSTUM_DATA: folder,
      FRUSTUM_HANDS_PORT: '0',
      FRUSTUM_JSON_PORT: '0',
      FRUSTUM_MQTT_PORT: '0',
      FRUSTUM_MULTIPROBE_PORT: '0',
      FRUSTUM_INSTRUMENTS_PORT: '0',
      FRUSTUM_MODBUS_PORT: '0',
      FRUSTUM_CLOCK_RATE: '10',
      FRUSTUM_SEED: '4870',
    });
    parts.push(stand);
    jsonUrl = stand.first['jsonUrl'] ?? '';
    mqttUrl = stand.first['mqttUrl'] ?? '';
    Object.assign(env, {
      FRUSTUM_DEMO_BUNDLE: stand.first['bundleFile']!,
      FRUSTUM_HANDS_URL: stand.first['handsUrl']!,
    });
  }
  const server = await startPart('server/dist/main.js', env);
  parts.push(server);
  return {
    url: server.first['url']!,
    jsonUrl,
    mqttUrl,
    folder,
    server: server.child,
    stop: async () => {
      await Promise.all(parts.map((p) => ended(p.child)));
      if (!options.folder) rmSync(folder, { recursive: true, force: true });
    },
  };
}

function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });
}

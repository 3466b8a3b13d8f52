import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { SHORT_LIVED } from '../../scripts/lib/short-lived.mjs';

const root = join(import.meta.dirname, '../..');

export interface Running {
  readonly child: ChildProcess;
  readonly pid: number;
  readonly url: string;
}

/** Starts the built server on a data folder, in a process group of its own as `npm start` does, and waits for its address. */
export function startServer(folder: string, env: Record<string, string> = {}): Promise<Running> {
  const child = spawn(process.execPath, [...SHORT_LIVED, join(root, 'server/dist/main.js')], {
    cwd: root,
    detached: true,
    env: { ...process.env, FRUSTUM_DATA: folder, PORT: '0', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let words = '';
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer) => {
      words += chunk.toString();
      const url = /Frustum is at (\S+)/.exec(words)?.[1];
      if (url) resolve({ child, pid: child.pid!, url });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.once('exit', () => reject(new Error(words)));
  });
}

/** kill -9 of the whole group: server, database thread, everything. */
export async function killServer({ child }: Running): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  process.kill(-child.pid!, 'SIGKILL');
  await gone;
}

/** One of the commands beside the server, to its end. @returns what it said, and how it ended */
export function runCommand(
  name: 'backup' | 'restore',
  folder: string,
  ...args: readonly string[]
): Promise<{ words: string; code: number | null }> {
  const child = spawn(process.execPath, [...SHORT_LIVED, join(root, `server/dist/${name}.js`), ...args], {
    env: { ...process.env, FRUSTUM_DATA: folder },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let words = '';
  child.stdout.on('data', (chunk: Buffer) => (words += chunk.toString()));
  child.stderr.on('data', (chunk: Buffer) => (words += chunk.toString()));
  return new Promise((resolve) => child.once('close', (code) => resolve({ words, code })));
}

import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const CHILDREN = pathToFileURL(join(import.meta.dirname, 'children.mjs')).href;
let folder: string;
let npm: ChildProcess | null = null;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'frustum-children-'))));
afterEach(() => {
  npm?.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

function lives(pid: number): boolean {
  try {
    // State Z: the process has ended, and its parent has not collected it yet.
    return !readFileSync(`/proc/${pid}/stat`, 'utf8').includes(') Z ');
  } catch {
    return false;
  }
}

/** Ids of the processes that have written theirs. */
const pids = () => readFileSync(join(folder, 'pids'), 'utf8').trim().split('\n').map(Number);
const SOON = { timeout: 60_000 };

describe.skipIf(process.platform !== 'linux')('nothing is left behind by a script that npm has started', () => {
  // Each process writes its id: the script, and one part; or the script, a shell, and what the shell has started.
  it.each<[string, NodeJS.Signals, string, number]>([
    ['a part of the application, when npm is ended', 'SIGTERM', `start(part, {})`, 2],
    ['a command and what it has started, when npm is ended', 'SIGTERM', `run('It', 'sh', ['-c', shell])`, 3],
    ['the same, when npm is killed', 'SIGKILL', `run('It', 'sh', ['-c', shell])`, 3],
  ])('%s', async (_, signal, call, count) => {
    const file = JSON.stringify(join(folder, 'pids'));
    const writes = `import { appendFileSync } from 'node:fs'; appendFileSync(${file}, process.pid + '\\n');`;
    writeFileSync(join(folder, 'package.json'), '{ "scripts": { "it": "node it.mjs" } }');
    writeFileSync(join(folder, 'part.mjs'), `${writes} process.send('here'); setInterval(() => {}, 1000);`);
    writeFileSync(
      join(folder, 'it.mjs'),
      `${writes} import { run, start } from '${CHILDREN}';
      const part = ${JSON.stringify(join(folder, 'part.mjs'))};
      const shell = 'echo $$ >> ' + ${file} + '; sleep 600 & echo $! >> ' + ${file} + '; wait';
      await ${call};`,
    );
    npm = spawn('npm', ['run', 'it'], { cwd: folder, stdio: 'ignore' });
    await vi.waitFor(() => expect(pids()).toHaveLength(count), SOON);
    expect(pids().every(lives)).toBe(true);
    npm.kill(signal);
    await vi.waitFor(() => expect(pids().filter(lives)).toEqual([]), SOON);
  });
});

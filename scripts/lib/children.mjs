// Starts the parts of the application as children and leaves none of them behind.
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const children = new Set();
let ending = false;

/** Starts a script; resolves with its first message, or ends everything when it dies before that. */
export function start(script, env) {
  const child = fork(join(root, script), {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  children.add(child);
  return new Promise((resolve) => {
    child.once('message', resolve);
    child.once('exit', (code) => {
      children.delete(child);
      // One part alone is no application: the others stop too.
      void end(code ?? 1);
    });
  });
}

/** Stops every child and then this process. */
export async function end(code) {
  if (ending) return;
  ending = true;
  const gone = [...children].map((child) => new Promise((resolve) => child.once('exit', resolve)));
  for (const child of children) child.kill('SIGTERM');
  const late = setTimeout(() => children.forEach((child) => child.kill('SIGKILL')), 8000);
  await Promise.all(gone);
  clearTimeout(late);
  process.exit(code);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));

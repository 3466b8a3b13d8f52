// Starts commands and the parts of the application as children, and leaves none of them behind, however this script ends.
import { fork, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { resolve as from } from 'node:path';
import { root } from './root.mjs';

const children = new Set();
/** those that lead a process group of their own */
const leaders = new WeakSet();
let ending = false;
/** What does not end by itself is killed after so long, ms. */
const COMMAND_MS = 1000;
const PART_MS = 8000;
/** whether parts of the application run: to stop them by a signal is no failure, to break off a command is */
let serves = false;

/** Keeps a child until it has ended. */
function known(child) {
  children.add(child);
  const gone = () => children.delete(child);
  child.once('exit', gone);
  child.once('error', gone);
  return child;
}

/** A command in a process group of its own, so that what it starts can be ended with it. */
export function command(file, args, options = {}) {
  const detached = process.platform !== 'win32';
  const child = known(spawn(file, args, { cwd: root, detached, ...options }));
  if (detached) leaders.add(child);
  return child;
}

/** Runs a command to its end, with its words on this terminal; what fails ends this script too. */
export async function run(what, file, args) {
  const code = await new Promise((resolve) => {
    const child = command(file, args, { stdio: ['ignore', 'inherit', 'inherit'] });
    child.once('error', () => resolve(null));
    child.once('exit', (status) => resolve(status));
  });
  // Stopped by somebody: the end is under way.
  if (ending) await new Promise(() => {});
  if (code === 0) return;
  process.stderr.write(`${what} failed${code === null ? '' : ` with code ${code}`}. The lines above say why.\n`);
  process.exit(code ?? 1);
}

/** Starts a script; resolves with its first message, or ends everything when it dies before that. */
export function start(script, env) {
  serves = true;
  const child = known(
    fork(from(root, script), {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    }),
  );
  return new Promise((resolve) => {
    child.once('message', resolve);
    // One part alone is no application: the others stop too.
    child.once('exit', (code) => void end(code ?? 1));
  });
}

/** A signal to a child, and to what it has started where it leads a group. */
function signal(child, name) {
  try {
    if (leaders.has(child)) process.kill(-child.pid, name);
    else child.kill(name);
  } catch {
    // It has gone meanwhile.
  }
}

/** Stops every child and then this process. */
export async function end(code) {
  if (ending) return;
  ending = true;
  const gone = [...children].map((child) => new Promise((resolve) => child.once('exit', resolve)));
  for (const child of children) signal(child, 'SIGTERM');
  // A command may be broken off: an installation begins anew. A part has a database to close.
  const kill = (which) => [...children].filter(which).forEach((child) => signal(child, 'SIGKILL'));
  setTimeout(() => kill((child) => leaders.has(child)), COMMAND_MS);
  setTimeout(() => kill(() => true), PART_MS);
  await Promise.all(gone);
  process.exit(code);
}

for (const name of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(name, () => void end(serves ? 0 : 1));

/** The parent of a process, and its command line; null where the system does not say. */
function above(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const parent = Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
    return { pid: parent, called: readFileSync(`/proc/${parent}/cmdline`, 'latin1').replaceAll('\0', ' ') };
  } catch {
    return null;
  }
}

/** npm, which started this script: beside it or above a shell; null when nobody did, or it cannot be known. */
function npmAbove() {
  if (!process.env.npm_lifecycle_event) return null;
  let one = above(process.pid);
  for (let i = 0; one && i < 4; i++) {
    if (/^npm |[/\\]npm(-cli\.js)?( |$)/.test(one.called)) return one.pid;
    one = above(one.pid);
  }
  return null;
}

/** npm passes no signal on: we end when our parent has ended. */
const [parent, npm] = [process.ppid, npmAbove()];
const lives = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
};
setInterval(() => {
  if (npm !== null && (process.ppid !== parent || !lives(npm))) void end(serves ? 0 : 1);
}, 500).unref();

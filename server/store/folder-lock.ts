import { chmodSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { Refusal } from '@frustum/core';

interface Holder {
  readonly pid: number;
  readonly since: string;
  readonly url: string;
}

const LOCK = { stale: 15_000, update: 3_000 };

/**
 * Takes a data folder for this process. Two processes on one folder would lose rows without a word.
 *
 * A holder that was killed leaves its lock behind: it is taken over when its process is gone.
 *
 * @throws Refusal `folder-in-use` naming who holds it
 */
export async function lockFolder(folder: string, since: string, url: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  keepToOneself(folder);
  const holderFile = join(folder, 'holder.json');
  const options = { ...LOCK, lockfilePath: join(folder, 'frustum.lock'), onCompromised: compromised };
  if (await lockfile.check(folder, options)) {
    const holder = readHolder(holderFile);
    if (!holder || alive(holder.pid)) throw inUse(folder, holder);
    rmSync(options.lockfilePath, { recursive: true, force: true });
  }
  const release = await lockfile.lock(folder, options).catch(() => {
    throw inUse(folder, readHolder(holderFile));
  });
  try {
    writeFileSync(holderFile, JSON.stringify({ pid: process.pid, since, url } satisfies Holder));
  } catch {
    // On a full disk nobody can read who holds it; it is held all the same.
  }
  return async () => {
    rmSync(holderFile, { force: true });
    await release();
  };
}

/** Others on this computer read nothing in a data folder, also where it was there before and open to them. */
function keepToOneself(folder: string): void {
  if (process.platform === 'win32' || (statSync(folder).mode & 0o077) === 0) return;
  // The folder last: until everything in it is closed, the next start closes it again.
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isDirectory()) chmodSync(path, 0o700);
    else if (entry.isFile()) chmodSync(path, 0o600);
  }
  chmodSync(folder, 0o700);
}

function inUse(folder: string, holder: Holder | null): Refusal {
  const who = holder ? `process ${holder.pid}, since ${holder.since}, at ${holder.url}` : 'another process';
  return new Refusal(
    'folder-in-use',
    `The data folder ${folder} is in use by ${who}. Stop that one, or set FRUSTUM_DATA to another folder.`,
    {
      folder,
      pid: holder?.pid ?? null,
    },
  );
}

function readHolder(file: string): Holder | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Holder;
  } catch {
    return null;
  }
}

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** The lock was taken from under us: going on would lose rows, stopping loses none. */
function compromised(error: Error): void {
  process.stderr.write(
    `The lock on the data folder was lost (${error.message}). Stopping before anything is damaged.\n`,
  );
  process.exit(1);
}

/** Ends the process with a sentence when somebody works in a folder that is to be started over. */
export async function checkFree(folder: string): Promise<void> {
  try {
    const unlock = await lockFolder(folder, new Date().toISOString(), 'starting over');
    await unlock();
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n`);
    process.exit(1);
  }
}

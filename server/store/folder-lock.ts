import { randomUUID } from 'node:crypto';
import {
  chmodSync, existsSync, mkdirSync, openSync, closeSync, readdirSync, readFileSync, readlinkSync, renameSync, rmSync, statfsSync,
  statSync, writeFileSync,
} from 'node:fs'; // prettier-ignore
import { connect, createServer, type Server } from 'node:net';
import { hostname } from 'node:os';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { Refusal } from '@frustum/core';
import { bootId } from './database-state.ts';
import { diskRefusal } from './failures.ts';

/** Who has a data folder: said to people, and compared by the next one that wants it. */
export interface Holder {
  readonly host: string;
  /** the computer; a container may not say */
  readonly machine: string;
  /** this run of it */
  readonly boot: string;
  /** processes of another namespace (a container) cannot be seen from here */
  readonly namespace: string;
  readonly pid: number;
  /** when the process began, by its system’s own count: numbers of processes come again */
  readonly began: string;
  /** at a socket in the folder */
  readonly listens: boolean;
  readonly token: string;
  readonly since: string;
  readonly url: string;
}

export interface FolderLock {
  /** Whether it is still ours. Another one takes it only where a person has removed the holder’s file. */
  readonly held: () => boolean;
  readonly file: string;
  readonly token: string;
  readonly unlock: () => Promise<void>;
}

const FILE = 'holder.json';
const SOCKET = 'holder.sock';
/** Held only while the lock is read and taken, never longer; a second process waits for it. */
const TAKING = { stale: 15_000, update: 3_000 };
const TAKE_TRIES = 40;
const TAKE_AGAIN_MS = 250;
const CONNECT_MS = 2000;

const systemFile = (file: string) => {
  try {
    return readFileSync(file, 'utf8').trim();
  } catch {
    return '';
  }
};
const beganOf = (pid: number | 'self') => {
  const stat = systemFile(`/proc/${pid}/stat`);
  return stat ? (stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '') : '';
};
const namespaceHere = () => {
  try {
    return readlinkSync('/proc/self/ns/pid');
  } catch {
    return '';
  }
};

/**
 * Takes a data folder for this process. Two processes on one folder would lose rows without a word.
 *
 * The holder listens on a socket in the folder. The system itself answers there as long as the process lives, also when it is
 * suspended or in another container, and nobody answers once it is gone. From another computer nothing can be known: there a
 * folder is never taken over.
 *
 * @param shared whether other computers may have the folder, too; looked up when it is not given
 * @throws Refusal `folder-in-use` naming who holds it; `disk-full`, `read-only`
 */
export async function lockFolder(
  folder: string,
  since: string,
  url: string,
  shared: (folder: string) => boolean = mayBeShared,
): Promise<FolderLock> {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    keepToOneself(folder);
  } catch (error) {
    throw notWritable(folder, error);
  }
  const release = await taking(folder);
  try {
    const file = join(folder, FILE);
    const before = readHolder(file);
    if (before && (await isHeld(folder, before, shared))) throw inUse(folder, before);
    rmSync(join(folder, SOCKET), { force: true });
    const server = await listen(folder);
    const mine: Holder = {
      host: hostname(),
      machine: systemFile('/etc/machine-id'),
      boot: bootId(),
      namespace: namespaceHere(),
      pid: process.pid,
      began: beganOf('self'),
      listens: server !== null,
      token: randomUUID(),
      since,
      url,
    };
    try {
      writeFileSync(`${file}.new`, JSON.stringify(mine), { mode: 0o600, flush: true });
      renameSync(`${file}.new`, file);
    } catch (error) {
      server?.close();
      throw notWritable(folder, error);
    }
    const held = () => holds(file, mine.token);
    const unlock = async () => {
      if (held()) rmSync(file, { force: true });
      await new Promise<void>((resolve) => (server ? server.close(() => resolve()) : resolve()));
    };
    return { held, file, token: mine.token, unlock };
  } finally {
    await release().catch(() => undefined);
  }
}

/** Only one looks at a time who has the folder. @throws Refusal `folder-in-use`, `disk-full`, `read-only` */
async function taking(folder: string): Promise<() => Promise<void>> {
  for (let tries = 1; ; tries++) {
    try {
      return await lockfile.lock(folder, { ...TAKING, lockfilePath: join(folder, 'frustum.lock') });
    } catch (error) {
      if ((error as { code?: string }).code !== 'ELOCKED') throw notWritable(folder, error);
      if (tries === TAKE_TRIES) throw inUse(folder, readHolder(join(folder, FILE)));
      await new Promise((resolve) => setTimeout(resolve, TAKE_AGAIN_MS));
    }
  }
}

/** Whether a holder’s file still names who has this token. */
export const holds = (file: string, token: string): boolean => readHolder(file)?.token === token;

/** Said, and then the process ends, when somebody else has the folder. */
export const FOLDER_LOST = new Refusal(
  'folder-lost',
  'Somebody else has taken Frustum’s data folder: nothing more is written from here. Look at what runs there; what waits on this device is sent to it by itself.',
);

/** Whether the holder of a folder still has it. */
async function isHeld(folder: string, holder: Holder, shared: (folder: string) => boolean): Promise<boolean> {
  if (holder.boot !== bootId()) {
    // Another run of this computer has ended; another computer may go on, where it can reach the folder at all.
    const same =
      holder.machine !== '' && holder.machine === systemFile('/etc/machine-id') && holder.host === hostname();
    return !same && shared(folder);
  }
  if (await answers(folder)) return true;
  // A socket that nobody answers at was left by a process that is gone. Without one, another container cannot be looked into.
  if (holder.listens && existsSync(join(folder, SOCKET))) return false;
  return holder.namespace === namespaceHere() ? alive(holder) : true;
}

/** Through the folder’s own number: a path of a socket may be 107 bytes long at most. */
function throughFolder<T>(folder: string, use: (path: string, done: () => void) => T): T {
  if (process.platform !== 'linux') return use(join(folder, SOCKET), () => undefined);
  const handle = openSync(folder, 'r');
  return use(`/proc/self/fd/${handle}/${SOCKET}`, () => closeSync(handle));
}

const answers = (folder: string): Promise<boolean> =>
  throughFolder(
    folder,
    (path, done) =>
      new Promise((resolve) => {
        const socket = connect(path);
        const ended = (held: boolean) => {
          socket.destroy();
          resolve(held);
        };
        socket.setTimeout(CONNECT_MS, () => ended(true));
        socket.once('connect', () => ended(true));
        socket.once('error', () => ended(false));
        socket.once('close', done);
      }),
  );

/** null where the system or the folder has no sockets: then the process alone is looked for. */
const listen = (folder: string): Promise<Server | null> =>
  throughFolder(
    folder,
    (path, done) =>
      new Promise((resolve) => {
        const server = createServer((socket) => socket.destroy());
        server.unref();
        server.once('close', done);
        server.once('error', () => {
          done();
          resolve(null);
        });
        server.listen(path, () => resolve(server));
      }),
  );

function alive({ pid, began }: Holder): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return false;
  }
  const now = beganOf(pid);
  return now === '' || began === '' || now === began;
}

/** File systems that one computer has to itself (linux/magic.h): ext, XFS, Btrfs, tmpfs, ZFS, overlay, F2FS. */
const LOCAL = new Set([0xef53, 0x58465342, 0x9123683e, 0x01021994, 0x2fc12fc1, 0x794c7630, 0xf2f52010]);
const mayBeShared = (folder: string) => !LOCAL.has(statfsSync(folder).type);

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
  const elsewhere = holder && holder.boot !== bootId();
  const who = holder
    ? `process ${holder.pid}${elsewhere || holder.namespace !== namespaceHere() ? ` on ${holder.host}` : ''}, since ${holder.since}, at ${holder.url}`
    : 'another process';
  const way = elsewhere
    ? `Stop that one there. If that computer does not run Frustum any more, remove ${join(folder, FILE)} and start again.`
    : 'Stop that one, or set FRUSTUM_DATA to another folder.';
  return new Refusal('folder-in-use', `The data folder ${folder} is in use by ${who}. ${way}`, {
    folder,
    pid: holder?.pid ?? null,
  });
}

function notWritable(folder: string, error: unknown): unknown {
  const code = diskRefusal(error)?.code;
  if (code === 'disk-full')
    return new Refusal(code, `The disk with ${folder} is full. Nothing is lost. Make room, then start again.`);
  if (code === 'read-only')
    return new Refusal(
      code,
      `Frustum may not write to its data folder ${folder}. Give it the right to, or set FRUSTUM_DATA to another folder, then start again.`,
    );
  return error;
}

function readHolder(file: string): Holder | null {
  try {
    const holder = JSON.parse(readFileSync(file, 'utf8')) as Partial<Holder>;
    return typeof holder.pid === 'number' && typeof holder.boot === 'string' ? (holder as Holder) : null;
  } catch {
    return null;
  }
}

/** Ends the process with a sentence when somebody works in a folder that is to be started over. */
export async function checkFree(folder: string): Promise<void> {
  try {
    const { unlock } = await lockFolder(folder, new Date().toISOString(), 'starting over');
    await unlock();
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n`);
    process.exit(1);
  }
}

import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import type { Change } from './changes.ts';

/** What a generation of the journal begins with. */
interface Generation {
  readonly generation: number;
  /** id of the house that it is of */
  readonly house: string;
  /** hashes of the migrations that its rows are written in */
  readonly migrations: readonly string[];
  /** number of the last write before it */
  readonly after: number;
}

/** One acknowledged write: the rows as it left them. */
export interface JournalEntry {
  readonly seq: number;
  readonly changes: readonly Change[];
}

export interface ReadGeneration extends Generation {
  readonly file: string;
  readonly entries: readonly JournalEntry[];
  /** whole lines that are not as they were written */
  readonly unreadable: readonly string[];
}

const nameOf = (generation: number) => `${String(generation).padStart(8, '0')}.ndjson`;
const FILE = /^\d{8}\.ndjson$/;

/** A line says what it must be: JSON whose first field is the CRC-32 of all that follows it. */
const lineOf = (rest: string): string => `{"crc":"${crc32(rest).toString(16).padStart(8, '0')}",${rest}}\n`;
const LINE = /^\{"crc":"([0-9a-f]{8})",(.*)\}$/s;

function parsed(line: string): unknown {
  const [, crc, rest] = LINE.exec(line) ?? [];
  if (rest === undefined || crc !== crc32(rest).toString(16).padStart(8, '0')) return null;
  return JSON.parse(`{${rest}}`) as unknown;
}

/** What was written into a folder or a file is on the disk. (Windows opens no folder, and needs it not.) */
export function flushed(path: string): void {
  if (process.platform === 'win32') return;
  const handle = openSync(path, 'r');
  try {
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}

/** The same, and the thread goes on meanwhile: a folder's flush may wait for much that others have written. */
export async function flushedMeanwhile(path: string): Promise<void> {
  if (process.platform === 'win32') return;
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

const NEWLINE = 0x0a;

/**
 * What every write has changed, row by row, flushed to the disk before it is committed and acknowledged. PGlite flushes nothing:
 * a power cut may take what it was told last, and this brings it back (`redo.ts`). Rows as they were left can be laid upon any
 * older state, any number of times.
 *
 * The file is NDJSON. It is cut only where a snapshot was read back (`cut`); until then a new generation is begun beside it.
 */
export class Journal {
  private readonly folder: string;
  private head: Generation;
  private handle: FileHandle;
  private bytes: number;
  private seq: number;
  private last: Promise<unknown> = Promise.resolve();

  private constructor(folder: string, head: Generation, handle: FileHandle, bytes: number, seq: number) {
    this.folder = folder;
    this.head = head;
    this.handle = handle;
    this.bytes = bytes;
    this.seq = seq;
  }

  /**
   * Begins a new generation behind what is there. A last line of before that a power cut has torn stays as it is: nothing is
   * ever written on into it.
   */
  static async begin(folder: string, { house, migrations, after }: Omit<Generation, 'generation'>): Promise<Journal> {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const last = Math.max(0, ...generationsIn(folder));
    const head = { generation: last + 1, house, migrations, after };
    const { handle, bytes } = await started(folder, head);
    return new Journal(folder, head, handle, bytes, after);
  }

  get generation(): number {
    return this.head.generation;
  }
  /** Number of the last write. */
  get lastSeq(): number {
    return this.seq;
  }
  /** Bytes of this generation. */
  get size(): number {
    return this.bytes;
  }

  /**
   * Keeps the changes of one write, before they are committed: what is in the database is always in here, too. Returns its number
   * when it is on the disk.
   *
   * @param changes the inside of a JSON array, as `changesOf` gives it
   * @throws Error of the disk; nothing of it is in the journal then
   */
  keep(changes: string): Promise<number> {
    return this.inTurn(async () => {
      await this.write(lineOf(`"seq":${this.seq + 1},"changes":[${changes}]`));
      return ++this.seq;
    });
  }

  /** A write that was kept, and could not be committed: it is passed over. */
  withdraw(seq: number): Promise<void> {
    return this.inTurn(() => this.write(lineOf(`"withdrawn":${seq}`)));
  }

  private inTurn<T>(job: () => Promise<T>): Promise<T> {
    const mine = this.last.then(job);
    this.last = mine.catch(() => undefined);
    return mine;
  }

  private async write(line: string): Promise<void> {
    const bytes = Buffer.from(line);
    try {
      for (let done = 0; done < bytes.length;)
        done += (await this.handle.write(bytes, done, bytes.length - done, this.bytes + done)).bytesWritten;
      await this.handle.datasync();
    } catch (error) {
      // Half a line must not stand before the next one.
      await this.handle.truncate(this.bytes).catch(() => undefined);
      throw error;
    }
    this.bytes += bytes.length;
  }

  /** Goes on in a new generation, and says which it is. */
  rotate(): Promise<number> {
    return this.inTurn(async () => {
      const head = { ...this.head, generation: this.head.generation + 1, after: this.seq };
      const { handle, bytes } = await started(this.folder, head);
      await this.handle.close();
      [this.head, this.handle, this.bytes] = [head, handle, bytes];
      return head.generation;
    });
  }

  /** What this generation holds up to now, as it stands in its file. */
  soFar(): Promise<Buffer> {
    return this.inTurn(async () => {
      const bytes = Buffer.alloc(this.bytes);
      const { bytesRead } = await this.handle.read(bytes, 0, this.bytes, 0);
      return bytes.subarray(0, bytesRead);
    });
  }

  /** Removes the generations before one: a snapshot that begins with it was read back. */
  cut(before: number): void {
    for (const generation of generationsIn(this.folder))
      if (generation < before) rmSync(join(this.folder, nameOf(generation)), { force: true });
  }

  close(): Promise<void> {
    return this.inTurn(() => this.handle.close());
  }
}

async function started(folder: string, head: Generation): Promise<{ handle: FileHandle; bytes: number }> {
  const file = join(folder, nameOf(head.generation));
  // Readable, too: a snapshot takes along what was written while it was made.
  const handle = await open(file, 'wx+', 0o600);
  try {
    const { generation, house, migrations, after } = head;
    const line = Buffer.from(
      lineOf(`"journal":1,${JSON.stringify({ generation, house, migrations, after }).slice(1, -1)}`),
    );
    await handle.write(line, 0, line.length, 0);
    await handle.sync();
    await flushedMeanwhile(folder);
    return { handle, bytes: line.length };
  } catch (error) {
    await handle.close();
    rmSync(file, { force: true });
    throw error;
  }
}

const generationsIn = (folder: string): number[] =>
  (existsSync(folder) ? readdirSync(folder) : [])
    .filter((name) => FILE.test(name))
    .map((name) => Number.parseInt(name, 10))
    .sort((a, b) => a - b);

/** Every generation in a folder, the oldest first, each line checked; a last line that a crash cut short is passed over. */
export function readJournal(folder: string): readonly ReadGeneration[] {
  return generationsIn(folder).map((generation) => readGeneration(join(folder, nameOf(generation)), generation));
}

export function readGeneration(file: string, generation: number, bytes: Buffer = readFileSync(file)): ReadGeneration {
  const lines = bytes
    .toString('utf8', 0, bytes.lastIndexOf(NEWLINE) + 1)
    .split('\n')
    .filter(Boolean);
  const [first = '', ...rest] = lines;
  const head = parsed(first) as Partial<Generation> | null;
  const unreadable: string[] = head ? [] : lines.slice(0, 1);
  const withdrawn = new Set<number>();
  const kept = rest.flatMap((line): JournalEntry[] => {
    const entry = parsed(line) as (Partial<JournalEntry> & { readonly withdrawn?: unknown }) | null;
    if (typeof entry?.withdrawn === 'number') {
      withdrawn.add(entry.withdrawn);
      return [];
    }
    if (typeof entry?.seq === 'number' && Array.isArray(entry.changes)) return [entry as JournalEntry];
    unreadable.push(line);
    return [];
  });
  const entries = kept.filter((e) => !withdrawn.has(e.seq));
  const { house = '', migrations = [], after = 0 } = head ?? {};
  return { file, generation, house, migrations, after, entries, unreadable };
}

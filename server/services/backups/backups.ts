import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statfsSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Worker } from 'node:worker_threads';
import { Refusal } from '@frustum/core';
import type { BackupsView, Prepared, SetAsideRow, SnapshotRow } from '@frustum/contract';
import { countsIn } from './house-counts.ts';
import type { BuildNews, BuildOrder } from '../../store/build-worker.ts';
import { lineOf, storeFolders } from '../../store/known-good.ts';
import { verify } from '../../store/manifest.ts';
import type { ThreadCommands } from '../../store/messages.ts';
import { bringPhotos, pack, unpack, workFolder } from '../../store/pack.ts';
import { snapshotsIn } from '../../store/snapshots-in.ts';
import { INCOMING, INFO, SET_ASIDE, switchTo } from '../../store/switch.ts';

const HOUR_MS = 3_600_000;
/** A journal that has become larger than this has a snapshot made, bytes. */
const MAX_JOURNAL_BYTES = 64_000_000;
/** So much stays free on the disk, bytes. */
const MIN_ROOM = 50_000_000;

interface Parts {
  readonly thread: ThreadCommands;
  readonly migrations: string;
  readonly buildWorker: URL;
  /** closes the house, does something with its files, and opens it again */
  readonly reopen: (work: () => Promise<void>) => Promise<void>;
}

const minute = (iso: string) => `${iso.slice(0, 16).replace('T', ' ')} UTC`;

/** Snapshots of this house, backups that come in, and the house that is built from one. */
export class Backups {
  private readonly dataFolder: string;
  private readonly parts: Parts;
  private readonly warn: (what: object) => void;
  private making: Promise<string> | null = null;
  private trouble = '';
  private prepared: Prepared | null = null;
  private builder: Worker | null = null;
  private busy = false;

  constructor({ dataFolder }: { readonly dataFolder: string }, parts: Parts, warn: (what: object) => void) {
    this.dataFolder = dataFolder;
    this.parts = parts;
    this.warn = warn;
    // What was being prepared when this house was closed is prepared again, if anybody wants it.
    rmSync(join(dataFolder, INCOMING), { recursive: true, force: true });
    for (const name of readdirSync(dataFolder))
      if (name.startsWith('work-')) rmSync(join(dataFolder, name), { recursive: true, force: true });
  }

  private get snapshots(): string {
    return storeFolders(this.dataFolder).snapshots;
  }

  async read(): Promise<BackupsView> {
    const now = await this.parts.thread.state();
    const [last] = lineOf(snapshotsIn(this.snapshots), now.house);
    return {
      snapshots: snapshotsIn(this.snapshots).map(({ name, manifest, bytes }): SnapshotRow => ({
        name,
        takenAt: manifest.takenAt,
        tookMs: manifest.tookMs,
        bytes,
        counts: countsIn(manifest.counts),
        ofThisLine: manifest.house === now.house,
      })),
      setAside: setAsideIn(this.dataFolder),
      prepared: this.prepared,
      counts: countsIn(now.counts),
      making: this.making ? now.making : null,
      trouble: this.trouble,
      writesSince: now.seq - (last?.manifest.upTo ?? 0),
      roomBytes: this.room() + MIN_ROOM,
      folder: this.snapshots,
    };
  }

  /** Makes a snapshot; when one is being made already, that one. @returns its name */
  make(): Promise<string> {
    this.making ??= this.roomFor()
      .then(() => this.parts.thread.snapshot())
      .then(({ name }) => {
        this.trouble = '';
        return name;
      })
      .catch((error: unknown) => {
        this.trouble =
          error instanceof Refusal ? error.message : 'The last snapshot could not be made. The log says why.';
        this.warn({ error, what: 'a snapshot could not be made' });
        throw error;
      })
      .finally(() => (this.making = null));
    return this.making;
  }

  /** A snapshot must not take the room that the next writes need. @throws Refusal `disk-full` */
  private async roomFor(): Promise<void> {
    const needed = 1.2 * (snapshotsIn(this.snapshots)[0]?.bytes ?? 0);
    const room = this.room();
    const megabytes = (bytes: number) => `${Math.ceil(bytes / 1e6)} MB`;
    if (room < needed)
      throw new Refusal(
        'no-room',
        `A snapshot needs about ${megabytes(needed)}, and ${megabytes(room)} of the disk may be used for it. What is written is kept all the same. Make room on it.`,
      );
  }

  /** A snapshot when the last one is an hour old and something was written since, or the journal has become large. */
  async whenDue(): Promise<void> {
    try {
      if (this.making || this.busy) return;
      const { house, seq, bytes } = await this.parts.thread.state();
      const last = lineOf(snapshotsIn(this.snapshots), house)[0]?.manifest;
      // One from tomorrow was made by a clock that was wrong.
      const old = !last || Math.abs(Date.now() - Date.parse(last.takenAt)) >= HOUR_MS;
      if ((old && seq > (last?.upTo ?? 0)) || bytes > MAX_JOURNAL_BYTES) await this.make();
    } catch {
      // Said on the page, and tried again.
    }
  }

  /** A snapshot as a file, with its pictures. @throws Refusal `snapshot-unknown` */
  async file(name: string, photoIds: readonly string[]): Promise<{ stream: Readable; done: () => Promise<void> }> {
    const work = await workFolder(this.dataFolder);
    const done = () => rm(work, { recursive: true, force: true });
    try {
      const stream = await pack(this.folderOf(name), join(this.dataFolder, 'photos'), photoIds, work);
      return { stream, done };
    } catch (error) {
      await done();
      throw error;
    }
  }

  /** Begins to build a house beside this one from a snapshot. @throws Refusal `snapshot-unknown`, `preparing` */
  prepare(name: string): void {
    const folder = this.folderOf(name);
    this.mustBeFree();
    const { takenAt } = snapshotsIn(this.snapshots).find((s) => s.name === name)!.manifest;
    this.build(folder, takenAt, 'snapshot');
  }

  /** Takes in a backup file and begins to build a house from it. @throws Refusal `backup-broken`, `disk-full`, `preparing` */
  async takeIn(source: Readable): Promise<void> {
    this.mustBeFree();
    this.busy = true;
    try {
      const folder = join(this.dataFolder, INCOMING, 'backup');
      rmSync(join(this.dataFolder, INCOMING), { recursive: true, force: true });
      mkdirSync(join(this.dataFolder, INCOMING), { mode: 0o700 });
      await unpack(source, folder, this.room());
      const { takenAt } = await verify(folder).catch(async (error: unknown) => {
        await rm(join(this.dataFolder, INCOMING), { recursive: true, force: true });
        throw error;
      });
      this.build(folder, takenAt, 'file');
    } catch (error) {
      // Read the rest of the file and drop it: a browser that still sends would not hear the reason.
      source.resume();
      throw error;
    } finally {
      this.busy = false;
    }
  }

  private build(backup: string, takenAt: string, from: Prepared['from']): void {
    const target = join(this.dataFolder, INCOMING, 'database');
    mkdirSync(join(this.dataFolder, INCOMING), { recursive: true, mode: 0o700 });
    this.prepared = { from, takenAt, state: 'building', rows: 0, of: 0, counts: null, trouble: '' };
    const order: BuildOrder = { target, backup, house: randomUUID(), migrations: this.parts.migrations };
    const script = this.parts.buildWorker;
    const worker = new Worker(script, {
      workerData: order,
      execArgv: script.pathname.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    this.builder = worker;
    const fail = (trouble: string) => {
      if (this.builder !== worker || this.prepared?.state !== 'building') return;
      this.prepared = { ...this.prepared, state: 'failed', trouble };
      rmSync(join(this.dataFolder, INCOMING), { recursive: true, force: true });
    };
    worker.on('message', (news: BuildNews) => {
      if (this.builder !== worker || !this.prepared) return;
      if ('rows' in news) this.prepared = { ...this.prepared, ...news };
      else if ('counts' in news) this.prepared = { ...this.prepared, state: 'ready', counts: countsIn(news.counts) };
      else fail(news.refusal.code === 'crash' ? 'It could not be built. The log says why.' : news.refusal.message);
      if ('refusal' in news) this.warn({ what: 'a house could not be built', why: news.refusal });
    });
    worker.on('error', (error) => {
      this.warn({ error, what: 'a house could not be built' });
      fail('It could not be built. The log says why.');
    });
    worker.on('exit', () => fail('It could not be built. The log says why.'));
  }

  /** Lets go of what was prepared. */
  async discard(): Promise<void> {
    await this.builder?.terminate();
    this.builder = null;
    this.prepared = null;
    rmSync(join(this.dataFolder, INCOMING), { recursive: true, force: true });
  }

  /** Puts what was prepared in the place of this house. @throws Refusal `not-prepared` */
  async switch(): Promise<void> {
    const { prepared } = this;
    this.mustBeFree();
    if (prepared?.state !== 'ready')
      throw new Refusal('not-prepared', 'Nothing is ready to be restored. Choose a snapshot or a backup first.');
    await bringPhotos(join(this.dataFolder, INCOMING, 'backup', 'photos'), this.dataFolder);
    this.busy = true;
    await this.parts.reopen(async () =>
      switchTo(
        this.dataFolder,
        INCOMING,
        `Restored from the ${prepared.from === 'file' ? 'backup' : 'snapshot'} of ${minute(prepared.takenAt)}.`,
      ),
    );
  }

  /** Brings a house back that was set aside. @throws Refusal `aside-unknown` */
  async bringBack(name: string): Promise<void> {
    const known = this.asideOf(name);
    this.mustBeFree();
    this.busy = true;
    await this.parts.reopen(async () =>
      switchTo(this.dataFolder, join(SET_ASIDE, name), `The house of before ${minute(known.at)} was brought back.`),
    );
  }

  /** Removes a house that was set aside. @throws Refusal `aside-unknown` */
  removeAside(name: string): void {
    this.asideOf(name);
    rmSync(join(this.dataFolder, SET_ASIDE, name), { recursive: true, force: true });
  }

  private asideOf(name: string): SetAsideRow {
    const known = setAsideIn(this.dataFolder).find((a) => a.name === name);
    if (known) return known;
    throw new Refusal('aside-unknown', 'That house is not there any more. Look at the list again.', { name });
  }

  private folderOf(name: string): string {
    if (snapshotsIn(this.snapshots).some((s) => s.name === name)) return join(this.snapshots, name);
    throw new Refusal('snapshot-unknown', 'There is no such snapshot any more. Look at the list again.', { name });
  }

  private mustBeFree(): void {
    if (this.busy || this.prepared?.state === 'building')
      throw new Refusal(
        'preparing',
        'A house is being built from a backup already. Wait for it, or let go of it first.',
      );
  }

  private room(): number {
    const { bavail, bsize } = statfsSync(this.dataFolder);
    return Math.max(0, bavail * bsize - MIN_ROOM);
  }
}

function setAsideIn(dataFolder: string): SetAsideRow[] {
  const folder = join(dataFolder, SET_ASIDE);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((name): SetAsideRow[] => {
      try {
        const { at, because } = JSON.parse(readFileSync(join(folder, name, INFO), 'utf8')) as SetAsideRow;
        return [{ name, at, because, bytes: bytesUnder(join(folder, name)) }];
      } catch {
        return [];
      }
    })
    .sort((a, b) => (a.at < b.at ? 1 : -1));
}

const bytesUnder = (folder: string): number =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(join(entry.parentPath, entry.name)).size, 0);

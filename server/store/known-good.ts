import { join } from 'node:path';
import { Refusal } from '@frustum/core';
import { readJournal, type ReadGeneration } from './journal.ts';
import { snapshotsIn, type KeptSnapshot } from './snapshots-in.ts';

/** What a database can be built from anew: a snapshot, or the very beginning, and all that was written since. */
export interface KnownGood {
  readonly house: string;
  /** null: from an empty database on */
  readonly snapshot: KeptSnapshot | null;
  readonly generations: readonly ReadGeneration[];
  /** writes behind the snapshot */
  readonly writes: number;
}

/** Folders of a data folder that the store has to itself. */
export interface StoreFolders {
  readonly database: string;
  readonly journal: string;
  readonly snapshots: string;
}

export const storeFolders = (dataFolder: string): StoreFolders => ({
  database: join(dataFolder, 'database'),
  journal: join(dataFolder, 'journal'),
  snapshots: join(dataFolder, 'snapshots'),
});

/** Every way back to the newest state, the best first. Snapshots are not read back here. */
export function knownGood({ journal, snapshots }: StoreFolders): KnownGood[] {
  const all = readJournal(journal);
  const house = all.findLast((g) => g.house)?.house ?? snapshotsIn(snapshots)[0]?.manifest.house;
  if (house === undefined) return [];
  const mine = all.filter((g) => g.house === house);
  const behind = (generation: number, upTo: number) => {
    const generations = mine.filter((g) => g.generation >= generation);
    const writes = generations.reduce((n, g) => n + g.entries.filter((e) => e.seq > upTo).length, 0);
    return { generations, writes };
  };
  // By generation, not by date: a clock may have been wrong.
  const ways = lineOf(snapshotsIn(snapshots), house)
    .filter((s) => goesOn(mine, s.manifest.generation))
    .map((snapshot): KnownGood => {
      const { generation, upTo } = snapshot.manifest;
      return { house, snapshot, ...behind(generation, upTo) };
    });
  // The first generation of all begins with an empty house.
  if (mine[0]?.after === 0 && !ways.length) ways.push({ house, snapshot: null, ...behind(0, 0) });
  return ways;
}

/** Snapshots of a house, the newest first, whatever its clock said. */
export const lineOf = (snapshots: readonly KeptSnapshot[], house: string): KeptSnapshot[] =>
  snapshots.filter((s) => s.manifest.house === house).sort((a, b) => b.manifest.generation - a.manifest.generation);

/** Whether the journal has every generation from one on. */
function goesOn(generations: readonly ReadGeneration[], from: number): boolean {
  const numbers = generations.map((g) => g.generation).filter((g) => g >= from);
  return numbers[0] === from && numbers.every((g, i) => g === from + i);
}

const minute = (iso: string) => `${iso.slice(0, 16).replace('T', ' ')} UTC`;
const writesWords = (n: number) => (n === 1 ? 'one write' : `${n} writes`);

/** What is known to be good, in words. */
export function knownGoodWords({ snapshot, writes }: Pick<KnownGood, 'snapshot' | 'writes'>): string {
  if (!snapshot) return `the journal of ${writesWords(writes)} since the beginning`;
  const after = writes ? `, and ${writesWords(writes)} in the journal after it` : ', and nothing was written after it';
  return `the snapshot of ${minute(snapshot.manifest.takenAt)}${after}`;
}

/** A refusal to open, with what is known to be good, and the way there. */
export function withKnownGood({ code, message, facts }: Refusal, folders: StoreFolders): Refusal {
  const [way] = knownGood(folders);
  const words = way
    ? ` Known to be good: ${knownGoodWords(way)}. “npm run restore” brings the house back to there.`
    : '';
  const known = way && { snapshot: way.snapshot?.name ?? null, writes: way.writes };
  return new Refusal(code, message + words, { ...facts, ...known });
}

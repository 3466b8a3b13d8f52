import { closeSync, existsSync, openSync, readdirSync, readSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** PostgreSQL’s pages, bytes. */
const PAGE = 8192;
/** Where a page’s own checksum stands in its head (src/include/storage/bufpage.h: pd_checksum). */
const CHECKSUM_AT = 8;

/**
 * Data page checksums of PostgreSQL (src/include/storage/checksum_impl.h, PostgreSQL licence): 32 sums of FNV-1a with a shift.
 * Checked here against the pages that PostgreSQL itself has written (`pages.spec.ts`).
 */
const OFFSETS = Uint32Array.of(
  0x5b1f36e9, 0xb8525960, 0x02ab50aa, 0x1de66d2a, 0x79ff467a, 0x9bb9f8a3, 0x217e7cd2, 0x83e13d2c,
  0xf8d4474f, 0xe39eb970, 0x42c6ae16, 0x993216fa, 0x7b093b5d, 0x98daff3c, 0xf718902a, 0x0b1c9cdb,
  0xe58f764b, 0x187636bc, 0x5d7b3bb1, 0xe73de7de, 0x92bec979, 0xcca6c0b2, 0x304a0979, 0x85aa43d4,
  0x783125bb, 0x6ca8eaa2, 0xe407eac6, 0x4b5cfc3e, 0x9fbf8c76, 0x15ca20be, 0xf2ca9fd3, 0x959bd756,
); // prettier-ignore
const FNV_PRIME = 16777619;
const SUMS = 32;
const WORDS = PAGE / 4;

/** @param words a page as little-endian words, its own checksum taken as nought; @param block its number in the relation */
function pageChecksum(words: Uint32Array, block: number): number {
  const sums = new Uint32Array(OFFSETS);
  const add = (i: number, value: number) => {
    const mixed = sums[i]! ^ value;
    sums[i] = Math.imul(mixed, FNV_PRIME) ^ (mixed >>> 17);
  };
  for (let at = 0; at < WORDS; at += SUMS)
    for (let i = 0; i < SUMS; i++) {
      const word = words[at + i]!;
      add(i, at + i === CHECKSUM_AT / 4 ? word & 0xffff0000 : word);
    }
  for (let round = 0; round < 2; round++) for (let i = 0; i < SUMS; i++) add(i, 0);
  const folded = sums.reduce((all, sum) => (all ^ sum) >>> 0, 0) ^ block;
  return ((folded >>> 0) % 65535) + 1;
}

/** Files of relations: a number, with its fork and segment; what belongs to one session only (t…) goes with it. */
const RELATION = /^(\d+)(?:_(fsm|vm|init))?(?:\.(\d+))?$/;
const PAGES_A_SEGMENT = 131_072;

/** Pages of each relation file of a database, by its path inside the folder. */
export type Sizes = Readonly<Record<string, number>>;

const foldersOf = (folder: string): string[] => [
  'global',
  ...readdirSync(join(folder, 'base')).map((name) => join('base', name)),
];

export function sizesOf(folder: string): Sizes {
  const sizes: Record<string, number> = {};
  for (const inside of foldersOf(folder))
    for (const name of readdirSync(join(folder, inside)))
      if (RELATION.test(name)) sizes[join(inside, name)] = statSync(join(folder, inside, name)).size / PAGE;
  return sizes;
}

/** New pages are made ready in advance, as noughts at the end: so many at once at most. */
const MADE_READY = 64;

/**
 * Files that have become smaller than they were, in a few words; null when there are none. No file of a relation ever does: to
 * be asked before the database is opened, which may make it longer again.
 *
 * @param noted sizes of before
 */
export function cutTrouble(folder: string, noted: Sizes): string | null {
  for (const [file, pages] of Object.entries(noted)) {
    const path = join(folder, file);
    const now = existsSync(path) ? statSync(path).size / PAGE : null;
    if (now === null) return `${file} is missing`;
    if (now < pages) return `${file} has ${now} pages of ${pages}`;
  }
  return null;
}

/**
 * Pages that are not as they were written, in a few words; null when there are none. To be asked of a database that has just
 * been opened: what its log has of a page is in it then.
 */
export function pagesTrouble(folder: string, noted: Sizes): string | null {
  const buffer = Buffer.alloc(PAGE * 128);
  for (const inside of foldersOf(folder)) {
    for (const name of readdirSync(join(folder, inside))) {
      const [, , fork, segment = '0'] = RELATION.exec(name) ?? [];
      // The maps of free space and of what is visible are made anew where they are wrong.
      if (!RELATION.test(name) || fork) continue;
      const file = join(inside, name);
      const handle = openSync(join(folder, file), 'r');
      try {
        let block = 0;
        for (let read; (read = readSync(handle, buffer, 0, buffer.length, block * PAGE)) > 0;) {
          if (read % PAGE) return `${file} ends in the middle of a page`;
          for (let at = 0; at < read; at += PAGE, block++) {
            const words = new Uint32Array(buffer.buffer, buffer.byteOffset + at, WORDS);
            const own = words[CHECKSUM_AT / 4]! & 0xffff;
            const empty = words.every((word) => word === 0);
            const expected = block < (noted[file] ?? 0) - (block === 0 ? 0 : MADE_READY);
            if (empty ? expected : own !== pageChecksum(words, Number(segment) * PAGES_A_SEGMENT + block))
              return `page ${block} of ${file} is not as it was written`;
          }
        }
      } finally {
        closeSync(handle);
      }
    }
  }
  return null;
}

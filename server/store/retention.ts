import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Journal } from './journal.ts';
import { lineOf } from './known-good.ts';
import { snapshotsIn } from './snapshots-in.ts';

const HOUR_MS = 3_600_000;
/** So many of the last ones stay whatever their age: where the newest does not read back, the one before it does. */
const LEAST = 2;

/** The newest of each hour, day and week, for so many of them that have one. */
const KEPT = [
  { spanMs: HOUR_MS, most: 6 },
  { spanMs: 24 * HOUR_MS, most: 7 },
  { spanMs: 7 * 24 * HOUR_MS, most: 8 },
];

/**
 * Which snapshots are kept, by their age.
 *
 * @param takenAt ISO 8601, in any order
 * @returns those that stay: the last two; of the last six hours, seven days and eight weeks that have one the newest each
 */
export function toKeep(takenAt: readonly string[]): ReadonlySet<string> {
  const newest = [...takenAt].sort().reverse();
  const kept = new Set(newest.slice(0, LEAST));
  for (const { spanMs, most } of KEPT) {
    const spans = new Set<number>();
    for (const at of newest) {
      const span = Math.floor(Date.parse(at) / spanMs);
      if (spans.has(span)) continue;
      if (spans.size === most) break;
      spans.add(span);
      kept.add(at);
    }
  }
  return kept;
}

/** Removes snapshots that are not kept, and the journal up to the one before the newest of this house. */
export async function thinOut(folder: string, journal: Pick<Journal, 'cut'>, house: string): Promise<void> {
  const all = snapshotsIn(folder);
  const keep = toKeep(all.map((s) => s.manifest.takenAt));
  const mine = lineOf(all, house);
  // Whatever the clock said when they were made.
  const last = new Set(mine.slice(0, LEAST).map((s) => s.name));
  for (const { name, manifest } of all)
    if (!keep.has(manifest.takenAt) && !last.has(name)) await rm(join(folder, name), { recursive: true, force: true });
  // Two generations: the last one that was read back, and the one before it.
  const before = mine[LEAST - 1];
  if (before) journal.cut(before.manifest.generation);
}

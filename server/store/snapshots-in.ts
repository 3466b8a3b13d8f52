import { existsSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { readManifest, type Manifest } from './manifest.ts';

/** A complete snapshot in its folder. */
export interface KeptSnapshot {
  readonly name: string;
  readonly manifest: Manifest;
  readonly bytes: number;
}

/** Ends the name of a folder in which a snapshot is being made. */
export const MAKING = '.making';

/** Snapshots of a folder, the newest first; one that cannot be read is none. */
export function snapshotsIn(folder: string): KeptSnapshot[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => /^\d{8}T\d{6}Z(-\d+)?$/.test(name))
    .flatMap((name): KeptSnapshot[] => {
      try {
        return [{ name, manifest: readManifest(join(folder, name)), bytes: bytesIn(join(folder, name)) }];
      } catch {
        return [];
      }
    })
    .sort((a, b) => (a.manifest.takenAt < b.manifest.takenAt ? 1 : -1));
}

/** Bytes of the files in a folder. */
export const bytesIn = (folder: string): number =>
  readdirSync(folder, { withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(join(folder, entry.name)).size, 0);

/** What a snapshot that was broken off has left. */
export function removeUnfinished(folder: string): void {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder))
    if (name.endsWith(MAKING)) rmSync(join(folder, name), { recursive: true, force: true });
}

import { chmodSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Says whom a folder and everything in it lets in. */
export function chmodAll(folder: string, files: number, folders: number): void {
  chmodSync(folder, folders);
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true }))
    chmodSync(join(entry.parentPath, entry.name), entry.isDirectory() ? folders : files);
}

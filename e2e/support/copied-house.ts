import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';

/** What the stand-ins keep beside the database: the ports that the demo's channels name. */
interface Memory {
  readonly modbusPort: number;
  readonly jsonPort: number;
  readonly multiProbePort: number;
}
type PortName = keyof Memory;
const PORTS: readonly PortName[] = ['modbusPort', 'jsonPort', 'multiProbePort'];

const memoryIn = (folder: string) => join(folder, 'stand-in.json');
const readMemory = (folder: string) => JSON.parse(readFileSync(memoryIn(folder), 'utf8')) as Memory;

/** A copy of a stopped demo house whose stand-ins take free ports at their next start. */
export function copyHouse(template: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-e2e-'));
  cpSync(template, folder, { recursive: true });
  for (const name of ['journal', 'snapshots', 'holder.json'])
    rmSync(join(folder, name), { recursive: true, force: true });
  const free = Object.fromEntries(PORTS.map((name) => [name, 0]));
  writeFileSync(memoryIn(folder), JSON.stringify({ ...readMemory(folder), ...free }));
  return folder;
}

/** Points the channels of a copied database to the ports that its own stand-ins took. The server must not run yet. */
export async function pointChannels(template: string, folder: string): Promise<void> {
  const from = readMemory(template);
  const to = readMemory(folder);
  const db = await PGlite.create(join(folder, 'database'));
  const moved = PORTS.reduce((text, name) => {
    const [old, now] = [from[name], to[name]];
    return `replace(replace(${text}, '"port": ${old}', '"port": ${now}'), '127.0.0.1:${old}/', '127.0.0.1:${now}/')`;
  }, 'config::text');
  // Behind its back: the journal would put the ports back where they were.
  await db.exec('set session_replication_role = replica');
  await db.query(`update channels set config = (${moved})::jsonb`);
  await db.close();
}

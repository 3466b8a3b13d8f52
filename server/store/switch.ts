import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { flushed } from './journal.ts';

/** What goes with a database, and is put in its place with it. */
const PARTS = ['database', 'database.state.json', 'journal'];
const INTENT = 'switching.json';
export const SET_ASIDE = 'set-aside';
export const INCOMING = 'incoming';
export const INFO = 'info.json';

/** Where a house comes from and where the present one goes to: names inside of the data folder. */
interface Intent {
  readonly from: string;
  readonly aside: string;
  readonly at: string;
  readonly because: string;
  /** the present house goes first, all of it; then the other one comes; then it is opened as a new line of its house */
  readonly phase: 'out' | 'in' | 'line';
}

/**
 * Puts another house in the place of the present one, which is set aside. Nobody has the database open. Cut short, it is
 * finished at the next start.
 *
 * @param from `incoming`, or one that was set aside
 * @param because in a sentence, for the person who later finds the house that was set aside
 */
export function switchTo(dataFolder: string, from: string, because: string, at = new Date().toISOString()): void {
  const stamp = at.replace(/[-:]|\.\d+/g, '');
  let aside = join(SET_ASIDE, stamp);
  for (let i = 2; existsSync(join(dataFolder, aside)); i++) aside = join(SET_ASIDE, `${stamp}-${i}`);
  noteIntent(dataFolder, { from, aside, at, because, phase: 'out' });
  finishSwitch(dataFolder);
}

function noteIntent(dataFolder: string, intent: Intent): void {
  const file = join(dataFolder, INTENT);
  writeFileSync(`${file}.new`, JSON.stringify(intent), { mode: 0o600, flush: true });
  renameSync(`${file}.new`, file);
  flushed(dataFolder);
}

/** Moves what a switch that was begun has not moved yet; nothing when there is none. */
export function finishSwitch(dataFolder: string): void {
  const intent = intentIn(dataFolder);
  if (!intent || intent.phase === 'line') return;
  const { from, aside, at, because, phase } = intent;
  mkdirSync(join(dataFolder, aside), { recursive: true, mode: 0o700 });
  const move = (there: string, to: string) => {
    for (const part of PARTS)
      if (existsSync(join(there, part)) && !existsSync(join(to, part))) renameSync(join(there, part), join(to, part));
  };
  if (phase === 'out') {
    move(dataFolder, join(dataFolder, aside));
    noteIntent(dataFolder, { ...intent, phase: 'in' });
  }
  move(join(dataFolder, from), dataFolder);
  writeFileSync(join(dataFolder, aside, INFO), JSON.stringify({ at, because }), { mode: 0o600, flush: true });
  rmSync(join(dataFolder, from), { recursive: true, force: true });
  flushed(dirname(join(dataFolder, aside)));
  noteIntent(dataFolder, { ...intent, phase: 'line' });
}

/**
 * Whether the house was put here and not opened since. It begins a new line then: snapshots of before, and what was written
 * after them, must not be laid upon it.
 */
export const beginsLine = (dataFolder: string): boolean => intentIn(dataFolder)?.phase === 'line';
export const lineBegun = (dataFolder: string): void => rmSync(join(dataFolder, INTENT), { force: true });

function intentIn(dataFolder: string): Intent | null {
  const file = join(dataFolder, INTENT);
  return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Intent) : null;
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { object, string } from 'yup';
import { Refusal } from '@frustum/core';

/** A user name and a password, and the one destination that they are for. */
export interface LogIn {
  readonly username: string;
  readonly password: string;
  /** host and port as the channel has them; absent = nobody has said, so it goes nowhere */
  readonly to?: string;
}
/** Log-ins by the name under which the server keeps them. */
export type LogIns = (name: string) => LogIn | null;

const schema = object({
  username: string().required(),
  password: string().required(),
  to: string().max(300).optional(),
});

/** Where in a text a parser has stopped, as line 3; '' where it does not say. */
function lineOf(text: string, error: unknown): string {
  const at = /at position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
  return at === undefined ? '' : ` in line ${text.slice(0, Number(at)).split('\n').length}`;
}

/**
 * Log-ins to devices, by name, from `log-ins.json` in the data folder: `{ "hall": { "to": "192.168.1.20:1883", "username": …, "password": … } }`.
 * Kept out of the database, so that no export and no answer can carry them. Read anew each time: no restart after a change.
 *
 * @throws Refusal `log-ins-broken` naming the line, or the log-in and what it lacks; never what stands there
 */
export function logInsIn(folder: string): LogIns {
  return (name) => {
    let text: string;
    try {
      text = readFileSync(join(folder, 'log-ins.json'), 'utf8');
    } catch {
      return null;
    }
    let all: unknown;
    try {
      all = JSON.parse(text);
    } catch (error) {
      throw new Refusal('log-ins-broken', `log-ins.json is no JSON${lineOf(text, error)}. Mend it in the data folder.`);
    }
    if (typeof all !== 'object' || all === null || Array.isArray(all))
      throw new Refusal('log-ins-broken', 'log-ins.json is no list of log-ins by name. Mend it in the data folder.');
    if (!Object.hasOwn(all, name)) return null;
    try {
      return schema.validateSync((all as Record<string, unknown>)[name], { strict: true });
    } catch (error) {
      const field = (error as { path?: string }).path;
      const what = field ? `has no usable “${field}”` : 'is none';
      throw new Refusal('log-ins-broken', `Log-in “${name}” in log-ins.json ${what}. Mend it in the data folder.`);
    }
  };
}

import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { object, string } from 'yup';
import { Refusal } from '@frustum/core';
import type { KeepLogIn, LogInRow } from '@frustum/contract';

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
    const all = readAll(folder);
    if (!Object.hasOwn(all, name)) return null;
    try {
      return schema.validateSync(all[name], { strict: true });
    } catch (error) {
      const field = (error as { path?: string }).path;
      const what = field ? `has no usable “${field}”` : 'is none';
      throw new Refusal('log-ins-broken', `Log-in “${name}” in log-ins.json ${what}. Mend it in the data folder.`);
    }
  };
}

const fileIn = (folder: string) => join(folder, 'log-ins.json');

/** The file as it stands, without looking into its log-ins. */
function readAll(folder: string): Readonly<Record<string, unknown>> {
  let text: string;
  try {
    text = readFileSync(fileIn(folder), 'utf8');
  } catch {
    return {};
  }
  let all: unknown;
  try {
    all = JSON.parse(text);
  } catch (error) {
    throw new Refusal('log-ins-broken', `log-ins.json is no JSON${lineOf(text, error)}. Mend it in the data folder.`);
  }
  if (typeof all !== 'object' || all === null || Array.isArray(all))
    throw new Refusal('log-ins-broken', 'log-ins.json is no list of log-ins by name. Mend it in the data folder.');
  return all as Readonly<Record<string, unknown>>;
}

/** Log-ins as they may be shown, by their names. @throws Refusal `log-ins-broken` */
export function listLogIns(folder: string): LogInRow[] {
  const known = logInsIn(folder);
  return Object.keys(readAll(folder))
    .sort()
    .flatMap((name) => {
      const logIn = known(name);
      return logIn ? [{ name, to: logIn.to ?? '', username: logIn.username }] : [];
    });
}

/**
 * Keeps a log-in. A password that is kept already goes to no other device and with no other user: it must be typed for that.
 *
 * @throws Refusal `password-wanted`, `log-ins-broken`
 */
export function keepLogIn(folder: string, { name, to, username, password }: KeepLogIn): LogInRow[] {
  const all = readAll(folder);
  const known = Object.hasOwn(all, name) ? logInsIn(folder)(name) : null;
  const same = known && known.to?.toLowerCase() === to.toLowerCase() && known.username === username;
  if (!password && !same)
    throw new Refusal(
      'password-wanted',
      known
        ? `The password of “${name}” is kept for ${known.username} at ${known.to ?? 'no device'} only. Type it again.`
        : 'The password is missing. Type it.',
      { name },
    );
  return put(folder, { ...all, [name]: { to, username, password: password || known!.password } });
}

/** Forgets a log-in. @throws Refusal `log-ins-broken` */
export function dropLogIn(folder: string, name: string): LogInRow[] {
  return put(folder, Object.fromEntries(Object.entries(readAll(folder)).filter(([key]) => key !== name)));
}

/** Written whole or not at all: nobody else may read it, and a full disk leaves the one of before. */
function put(folder: string, all: Readonly<Record<string, unknown>>): LogInRow[] {
  const file = fileIn(folder);
  writeFileSync(`${file}.new`, `${JSON.stringify(all, null, 2)}\n`, { mode: 0o600, flush: true });
  renameSync(`${file}.new`, file);
  return listLogIns(folder);
}

import { resolve } from 'node:path';
import type { Env } from './env.ts';

export interface Config {
  readonly port: number;
  /** this machine's own, without brackets */
  readonly host: string;
  readonly dataFolder: string;
  readonly logLevel: string;
  /** bundle to load into an empty database; also says that this is the demo */
  readonly demoBundle: string | null;
  /** where the stand-in's hands listen */
  readonly handsUrl: string | null;
  /** pause between two reads of Frustum's own map while a screen shows the channel, ms */
  readonly watchedMs: number;
  /** channels are read whatever became of earlier starts: where a test pulls plugs on purpose */
  readonly pollAlways: boolean;
  /** hosts, or host and port, to which channels may lead though they are no private addresses */
  readonly allowed: readonly string[];
}

/** Five samples a second: what a person sees as live. */
export const WATCHED_MS = 200;

/** Whether a name or address leads to this machine and no other. */
export const isThisMachine = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|::1|\[::1\])$/i.test(host);

/**
 * Checks the environment.
 *
 * @throws Error with variable, value and remedy
 */
export function checkConfig(env: Env): Config {
  const port = env.port === undefined || env.port === '' ? 4870 : Number(env.port);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    throw new Error(`PORT is “${env.port}”; it must be a whole number from 0 to 65535. Try PORT=4870.`);
  }
  const watchedMs = env.watchedMs === undefined || env.watchedMs === '' ? WATCHED_MS : Number(env.watchedMs);
  if (!Number.isInteger(watchedMs) || watchedMs < 20 || watchedMs > 2000) {
    throw new Error(
      `FRUSTUM_WATCHED_MS is “${env.watchedMs}”; it must be a whole number of milliseconds from 20 to 2000. Try FRUSTUM_WATCHED_MS=${WATCHED_MS}.`,
    );
  }
  const host = env.host || '127.0.0.1';
  if (!isThisMachine(host)) {
    throw new Error(
      `HOST is “${host}”; Frustum has no sign-in yet, so it listens on this machine only. Leave HOST out, and reach it from elsewhere through an encrypted tunnel to this machine.`,
    );
  }
  const level = env.logLevel ?? 'warn';
  if (!['silent', 'error', 'warn', 'info', 'debug'].includes(level)) {
    throw new Error(`FRUSTUM_LOG is “${level}”; it must be silent, error, warn, info or debug.`);
  }
  return {
    port,
    host,
    dataFolder: resolve(env.data ?? '.frustum'),
    logLevel: level,
    demoBundle: env.demoBundle ?? null,
    handsUrl: env.handsUrl ?? null,
    watchedMs,
    pollAlways: env.pollAlways === '1',
    allowed: (env.allow ?? '')
      .split(',')
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
  };
}

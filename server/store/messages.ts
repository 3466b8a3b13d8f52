import type { RefusalSaid } from '@frustum/core';
import type { KeptSnapshot } from './snapshots-in.ts';

export interface WorkerOptions {
  /** the data folder; null: a database that passes, for tests */
  readonly dataFolder: string | null;
  readonly migrations: string;
  /** the holder’s file with our token in it: a process that finds another token there stops writing */
  readonly holder?: { readonly file: string; readonly token: string };
  /** pretends that the computer went down since, for tests */
  readonly boot?: string;
}

/** How the house stands. */
interface ThreadState {
  /** its id */
  readonly house: string;
  /** number of the last write */
  readonly seq: number;
  /** what the journal holds since the last snapshot */
  readonly bytes: number;
  /** rows of each table */
  readonly counts: Readonly<Record<string, number>>;
  /** rows of a snapshot that is being made */
  readonly making: { readonly rows: number; readonly of: number };
}

/** Commands of the thread itself, beside the store’s. */
export interface ThreadCommands {
  /** copies the house into a snapshot, while it goes on */
  readonly snapshot: () => Promise<KeptSnapshot>;
  /** what was begun is finished: from now on it is opened as it is */
  readonly begun: () => Promise<void>;
  readonly state: () => Promise<ThreadState>;
}

export interface Request {
  readonly id: number;
  readonly command: string;
  readonly args: readonly unknown[];
}

export type Answer =
  | { readonly id: number; readonly ok: true; readonly value: unknown }
  | {
      readonly id: number;
      readonly ok: false;
      readonly refusal: RefusalSaid;
    }
  | { readonly id: number; readonly ok: false; readonly crash: string }
  /** what somebody who starts it should know, in a sentence */
  | { readonly said: string };

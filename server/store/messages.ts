import type { RefusalFacts } from '@frustum/core';

export interface WorkerOptions {
  /** null: in memory, for tests */
  readonly folder: string | null;
  readonly migrations: string;
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
      readonly refusal: { code: string; message: string; facts: RefusalFacts };
    }
  | { readonly id: number; readonly ok: false; readonly crash: string };

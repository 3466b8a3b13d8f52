import type { ConeView, LoopRow } from '@frustum/contract';

/** Margins as they were worked out last, ready to be sent. */
export interface MadeMargins {
  readonly rows: readonly LoopRow[];
  readonly cones: ReadonlyMap<string, ConeView>;
  /** the answer, as it goes out: encoded once for all */
  readonly json: Buffer;
}

import type { ServiceRow } from '@frustum/contract';
import type { Context } from '../../context.ts';

/** An entry of the service log may be taken back for so long; later it stands, like all records. */
export const TAKE_BACK_MS = 24 * 3_600_000;

type Kept = Awaited<ReturnType<Context['store']['readServices']>>[number];

export const serviceRowOf = ({ at, kind, note, by, notedAt }: Kept, nowMs: number): ServiceRow => ({
  at,
  kind,
  note,
  by,
  fresh: notedAt !== null && nowMs - Date.parse(notedAt) < TAKE_BACK_MS,
});

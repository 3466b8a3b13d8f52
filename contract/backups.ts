import { object, string } from 'yup';

/** How much of each kind a house or a backup has. */
export interface HouseCounts {
  readonly loops: number;
  readonly sensors: number;
  readonly runs: number;
  readonly events: number;
  readonly minutes: number;
  readonly lots: number;
  readonly doses: number;
  readonly services: number;
  readonly procedures: number;
  readonly alarms: number;
  readonly photos: number;
}

/** A snapshot in the data folder. */
export interface SnapshotRow {
  /** also its address */
  readonly name: string;
  readonly takenAt: string;
  readonly tookMs: number;
  readonly bytes: number;
  readonly counts: HouseCounts;
  /** of the house as it goes on now; false: from before another backup was restored */
  readonly ofThisLine: boolean;
}

/** A house that gave way to a restored one, and was kept. */
export interface SetAsideRow {
  readonly name: string;
  readonly at: string;
  /** in a sentence */
  readonly because: string;
  readonly bytes: number;
}

/** A backup that is being built into a house beside this one, or waits to take its place. */
export interface Prepared {
  readonly from: 'snapshot' | 'file';
  readonly takenAt: string;
  readonly state: 'building' | 'ready' | 'failed';
  /** rows that were loaded, of so many */
  readonly rows: number;
  readonly of: number;
  /** of the built house; null while it is being built */
  readonly counts: HouseCounts | null;
  /** why it failed; '' otherwise */
  readonly trouble: string;
}

export interface BackupsView {
  readonly snapshots: readonly SnapshotRow[];
  readonly setAside: readonly SetAsideRow[];
  readonly prepared: Prepared | null;
  /** this house, now */
  readonly counts: HouseCounts;
  /** a snapshot is being made: rows that were copied, of so many */
  readonly making: { readonly rows: number; readonly of: number } | null;
  /** why the last one could not be made; '' when it could */
  readonly trouble: string;
  /** writes in the journal since the last snapshot */
  readonly writesSince: number;
  /** free on the disk, bytes */
  readonly roomBytes: number;
  readonly folder: string;
}

const name = string()
  .matches(/^\d{8}T\d{6}Z(-\d+)?$/, 'That is not the name of a snapshot.')
  .required();
export const prepareSchema = object({ snapshot: name });
export const asideSchema = object({ name });

import { object, string, type InferType } from 'yup';
import type { SensorId } from '@frustum/core';

export const MAX_LOGBOOK_ROWS = 10_000;
/** So many of its mistakes are shown at once; how many there are is said. */
export const MAX_LOGBOOK_FAULTS = 200;
const MAX_CHARACTERS = 1_500_000;

/** Past runs as CSV: see `decodeLogbook` for its columns. */
export const logbookSchema = object({
  csv: string()
    .required('The file is empty. Write one line for each standard of each run.')
    .max(MAX_CHARACTERS, 'The file has more than 1.5 million characters. Cut it into parts.'),
}).noUnknown();
export type Logbook = InferType<typeof logbookSchema>;

/** A run of the logbook as it would be kept. */
export interface LogbookRun {
  readonly line: number;
  readonly sensorId: SensorId;
  readonly loopName: string;
  readonly at: string;
  readonly by: string;
  readonly standards: readonly string[];
  /** as found at the working value, in the unit of the loop */
  readonly error: number | null;
  readonly zero: number | null;
  readonly sensitivity: number | null;
  readonly adjusted: boolean;
}

/** What a logbook gives, and what in it cannot be used: then nothing of it is kept. */
export interface LogbookView {
  readonly runs: readonly LogbookRun[];
  readonly faults: readonly { readonly line: number; readonly column: number; readonly message: string }[];
  readonly faultCount: number;
  readonly kept: boolean;
}

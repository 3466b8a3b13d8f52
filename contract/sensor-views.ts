import type {
  ConditionOfRun,
  Diagnosis,
  LimitAhead,
  PastRun,
  RunOutcome,
  ServiceEvent,
  ServiceSaid,
  Untested,
  CleaningTaught,
} from '@frustum/core';
import type { DrawnRow, LeansOn } from './views.ts';
import type { LookBackView } from './watching.ts';

export interface RunRow {
  readonly runId: string;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly status: 'open' | 'closed' | 'abandoned';
  readonly outcome: RunOutcome | null;
}

/** What a channel showed in a stretch of time, by the coefficients that were in force then. */
export interface ReadingBucket {
  readonly atMs: number;
  readonly mean: number;
  readonly low: number;
  readonly high: number;
  readonly temperatureC: number;
  /** a run was under way: what the probe saw may have been a cup */
  readonly onBench: boolean;
}

/** One recorded reading, as the sensor's signal: what a sample drawn then is paired with. */
export interface ReadingAt {
  readonly at: string;
  readonly signal: number;
  readonly signalUncertainty: number;
  readonly temperatureC: number;
}

export interface ReadingsView {
  /** with its scale */
  readonly unit: string;
  readonly widthMs: number;
  readonly fromMs: number;
  readonly toMs: number;
  readonly buckets: readonly ReadingBucket[];
}

/** What was done to a sensor outside of a run. */
export interface ServiceRow {
  readonly at: string;
  readonly kind: ServiceEvent['kind'];
  readonly note: string;
  readonly by: string;
  /** written down within the last day: it can be taken back */
  readonly fresh: boolean;
}

export interface SensorView {
  readonly nowMs: number;
  readonly row: DrawnRow;
  readonly runs: readonly RunRow[];
  readonly services: readonly ServiceRow[];
  /** zero and sensitivity through all runs that were about the sensor, oldest first */
  readonly past: readonly PastRun[];
  /** which half is failing; null where nothing is written of its family, and before the first run */
  readonly health: Diagnosis | null;
  /** what the last service has told; null where that is nothing, or no news any more */
  readonly serviceSaid: ServiceSaid | null;
  /** what was done to it and waits for the next run; null for nothing */
  readonly untested: Untested | null;
  /** what its cleanings have taught; null where no run has yet followed one */
  readonly cleaning: CleaningTaught | null;
  /** when zero and sensitivity are forecast to meet their limits, the earliest first */
  readonly limitsAhead: readonly LimitAhead[];
  /** what is left of the reference's electrolyte, mol/kg, where dilution is the likeliest cause */
  readonly electrolyteLeft: { readonly low: number; readonly mid: number; readonly high: number } | null;
  /** when it was probably outside, the latest first */
  readonly lookBacks: readonly LookBackView[];
  /** loops that come before this one: its thermometer, what shares its reference */
  readonly leansOn: readonly LeansOn[];
  /** what a run that begins now takes its conditions from */
  readonly conditions: readonly ConditionOfRun[];
}

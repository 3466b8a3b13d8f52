import type { AlarmKind, LookBack } from '@frustum/core';

/** Something that leaned on a sensor's readings. */
export interface LeanedRow {
  readonly kind: 'control' | 'dose' | 'sample' | 'run' | 'alarm';
  /** null = all the time */
  readonly atMs: number | null;
  /** the last of several, from `atMs` on */
  readonly untilMs?: number;
  readonly what: string;
  /** whose it was */
  readonly sensorId: string;
}

/** A time in which a sensor was probably wrong, and what was decided on it. */
export interface LookBackView extends LookBack {
  readonly leaned: readonly LeanedRow[];
}

/** What somebody was told of: raised once, over when its cause is gone. */
export interface AlarmRow {
  readonly id: string;
  readonly kind: AlarmKind;
  readonly sensorId: string | null;
  readonly text: string;
  readonly raisedAt: string;
  readonly acknowledgedAt: string | null;
  readonly acknowledgedBy: string | null;
  readonly clearedAt: string | null;
  /** the run that wants hands, where it is about one */
  readonly runId: string | null;
}

export interface AlarmsView {
  /** by consequence, of two alike the newest first */
  readonly standing: readonly AlarmRow[];
  /** the latest first, at most fifty */
  readonly past: readonly AlarmRow[];
  /** where alarms go beside the screen, and what is wrong there */
  readonly told: {
    readonly webhook: string | null;
    readonly mqtt: string | null;
    readonly trouble: string | null;
    /** messages that are still to be told there */
    readonly waiting: number;
    /** what could not be told for a day, the latest first */
    readonly givenUp: readonly {
      readonly way: string;
      readonly text: string;
      readonly at: string;
      readonly trouble: string;
    }[];
  };
}

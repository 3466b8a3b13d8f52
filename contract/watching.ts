import type { AlarmKind, AlarmLevel, Leaned, LookBack, MessageWay } from '@frustum/core';

/** A time in which a sensor was probably wrong, and what was decided on it. */
export interface LookBackView extends LookBack {
  readonly leaned: readonly Leaned[];
}

/** What somebody was told of: raised once, over when its cause is gone. */
export interface AlarmRow {
  readonly id: string;
  readonly kind: AlarmKind;
  readonly level: AlarmLevel;
  readonly sensorId: string | null;
  readonly text: string;
  readonly raisedAt: string;
  readonly acknowledgedAt: string | null;
  readonly acknowledgedBy: string | null;
  readonly clearedAt: string | null;
  /** ways on which it has gone */
  readonly told: readonly MessageWay[];
  /** quiet until then; null = not snoozed */
  readonly snoozedUntil: string | null;
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
    readonly mail: string | null;
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

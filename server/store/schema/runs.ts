import { instant } from './instant.ts';
import { sql } from 'drizzle-orm';
import { boolean, index, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { LoopId, RunId, RunOutcome, SensorId } from '@frustum/core';
import { loops } from './loops.ts';
import { sensors } from './sensors.ts';

/** One execution of a procedure. Its truth is in run_events; status and outcome are derived from them, for quick reading. */
export const runs = pgTable(
  'runs',
  {
    id: uuid('id').$type<RunId>().primaryKey(),
    sensorId: uuid('sensor_id')
      .$type<SensorId>()
      .notNull()
      .references(() => sensors.id),
    loopId: uuid('loop_id')
      .$type<LoopId>()
      .notNull()
      .references(() => loops.id),
    status: text('status').$type<'open' | 'closed' | 'abandoned'>().notNull(),
    /** the hold is on and nobody has released it */
    holding: boolean('holding').notNull().default(false),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    outcome: jsonb('outcome').$type<RunOutcome>(),
  },
  (t) => [
    index('runs_of_sensor').on(t.sensorId, t.startedAt),
    // One open run a sensor: two people cannot start side by side without seeing each other.
    uniqueIndex('one_open_run')
      .on(t.sensorId)
      .where(sql`status = 'open'`),
  ],
);

import { bigserial, index, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { LifeEventKind, LoopId, SensorId } from '@frustum/core';
import { instant } from './instant.ts';
import { loops } from './loops.ts';
import { sensors } from './sensors.ts';

/** Where a sensor was through its life: fitted, taken out, stored, retired. Append-only. */
export const sensorEvents = pgTable(
  'sensor_events',
  {
    id: uuid('id').primaryKey(),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    sensorId: uuid('sensor_id')
      .$type<SensorId>()
      .notNull()
      .references(() => sensors.id),
    /** when it was done; when it was written down is notedAt */
    at: instant('at').notNull(),
    kind: text('kind').$type<LifeEventKind>().notNull(),
    /** fitted at it, or taken out of it */
    loopId: uuid('loop_id')
      .$type<LoopId>()
      .references(() => loops.id),
    by: text('by').notNull(),
    why: text('why').notNull().default(''),
    notedAt: instant('noted_at').notNull(),
  },
  (t) => [index('events_of_sensor').on(t.sensorId, t.seq)],
);

import { index, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { LoopId, NoticeKind, SensorId } from '@frustum/core';
import { instant } from './instant.ts';
import { loops } from './loops.ts';
import { sensors } from './sensors.ts';

/** What somebody noticed at a loop: a reason to look at its sensor, or something that befell its water. */
export const notices = pgTable(
  'notices',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .$type<LoopId>()
      .notNull()
      .references(() => loops.id),
    /** the sensor that was fitted then; null = none */
    sensorId: uuid('sensor_id')
      .$type<SensorId>()
      .references(() => sensors.id),
    at: instant('at').notNull(),
    kind: text('kind').$type<NoticeKind>().notNull(),
    note: text('note').notNull().default(''),
    by: text('by').notNull(),
    notedAt: instant('noted_at').notNull(),
  },
  (t) => [unique('notice_once').on(t.loopId, t.at, t.kind), index('notices_of_loop').on(t.loopId, t.at)],
);

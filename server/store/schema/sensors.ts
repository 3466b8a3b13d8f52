import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { date, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { LoopId, SensorId } from '@frustum/core';
import { loops } from './loops.ts';

/** The physical thing with a serial and an age; fitted at a loop, or on the shelf. */
export const sensors = pgTable('sensors', {
  id: uuid('id').$type<SensorId>().primaryKey(),
  loopId: uuid('loop_id')
    .$type<LoopId>()
    .references(() => loops.id),
  name: text('name').notNull(),
  serial: text('serial').notNull().default(''),
  family: text('family').notNull(),
  fittedOn: date('fitted_on', { mode: 'string' }).notNull(),
  /** counts the changes */
  version: integer('version').notNull().default(1),
  createdAt: instant('created_at')
    .notNull()
    .default(sql`now()`),
});

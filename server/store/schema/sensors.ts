import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { date, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { LoopId, SensorId, Storage } from '@frustum/core';
import { loops } from './loops.ts';

/** The physical thing with a serial and an age; fitted at a loop, or on the shelf. */
export const sensors = pgTable('sensors', {
  id: uuid('id').$type<SensorId>().primaryKey(),
  loopId: uuid('loop_id')
    .$type<LoopId>()
    // A loop has one sensor at most.
    .unique('one_sensor_a_loop')
    .references(() => loops.id),
  name: text('name').notNull(),
  serial: text('serial').notNull().default(''),
  family: text('family').notNull(),
  fittedOn: date('fitted_on', { mode: 'string' }).notNull(),
  /** when it came to its loop from elsewhere; null for a sensor that is there since the loop was set up, and on the shelf */
  fittedAt: instant('fitted_at'),
  /** the house's own name for what kind it is; '' = not said */
  model: text('model').notNull().default(''),
  boughtOn: date('bought_on', { mode: 'string' }),
  /** on the shelf: how it is stored; '' while it is fitted or retired */
  storage: text('storage').$type<Storage>().notNull().default(''),
  /** in storage solution since then, before it is fitted */
  soakingSince: instant('soaking_since'),
  retiredAt: instant('retired_at'),
  /** counts the changes */
  version: integer('version').notNull().default(1),
  createdAt: instant('created_at')
    .notNull()
    .default(sql`now()`),
});

import type { RunId } from '@frustum/core';
import { integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from './instant.ts';
import { runs } from './runs.ts';

/** Pictures of displays, as witnesses. The pictures themselves lie in the data folder, under their id. */
export const photos = pgTable('photos', {
  id: uuid('id').primaryKey(),
  runId: uuid('run_id')
    .$type<RunId>()
    .notNull()
    .references(() => runs.id),
  type: text('type').$type<'image/jpeg' | 'image/png'>().notNull(),
  bytes: integer('bytes').notNull(),
  at: instant('at').notNull(),
});

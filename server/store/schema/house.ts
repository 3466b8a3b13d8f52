import { pgTable, uuid } from 'drizzle-orm/pg-core';
import { instant } from './instant.ts';

/** One row: which house this database is of. Journal and snapshots name it, so that none is ever laid upon another. */
export const house = pgTable('house', {
  id: uuid('id').primaryKey(),
  begunAt: instant('begun_at').notNull(),
});

import { bigint, pgTable, text } from 'drizzle-orm/pg-core';

/** How many rows each table has, counted by triggers as they come and go: a table that has fewer was damaged from outside. */
export const rowCounts = pgTable('row_counts', {
  table: text('table_name').primaryKey(),
  rows: bigint('rows', { mode: 'number' }).notNull(),
});

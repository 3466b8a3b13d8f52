import { pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from './instant.ts';

/** Names of the people who work here. They prove nothing: there is no secret yet. */
export const users = pgTable('users', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull().unique(),
  role: text('role').notNull(),
  /** no longer offered in the list; what they did keeps their name */
  leftAt: instant('left_at'),
});

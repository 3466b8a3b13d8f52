import { pgTable, text, uuid } from 'drizzle-orm/pg-core';

/** Who works here. One local operator for now. */
export const users = pgTable('users', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull().unique(),
  role: text('role').notNull(),
});

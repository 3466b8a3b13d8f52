import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import type { SiteId } from '@frustum/core';
import { pgTable, text, uuid } from 'drizzle-orm/pg-core';

export const sites = pgTable('sites', {
  id: uuid('id').$type<SiteId>().primaryKey(),
  name: text('name').notNull().unique(),
  timeZone: text('time_zone').notNull().default('UTC'),
  createdAt: instant('created_at')
    .notNull()
    .default(sql`now()`),
});

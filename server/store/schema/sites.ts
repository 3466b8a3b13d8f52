import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import type { SiteId } from '@frustum/core';
import { integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';

export const sites = pgTable('sites', {
  id: uuid('id').$type<SiteId>().primaryKey(),
  name: text('name').notNull().unique(),
  timeZone: text('time_zone').notNull().default('UTC'),
  /** counts the changes */
  version: integer('version').notNull().default(1),
  /** put away with all of its loops; null while it is in use */
  archivedAt: instant('archived_at'),
  createdAt: instant('created_at')
    .notNull()
    .default(sql`now()`),
});

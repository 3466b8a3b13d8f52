import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { doublePrecision, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { sites } from './sites.ts';

/** One measuring point: what is measured, where, its working value and tolerance, and what it controls. */
export const loops = pgTable(
  'loops',
  {
    id: uuid('id').primaryKey(),
    siteId: uuid('site_id')
      .notNull()
      .references(() => sites.id),
    name: text('name').notNull(),
    place: text('place').notNull().default(''),
    family: text('family').notNull(),
    /** what the arithmetic must know of the sensor: cell constant, ion, reference and so on */
    settings: jsonb('settings').$type<Record<string, number | string>>().notNull().default({}),
    workingValue: doublePrecision('working_value').notNull(),
    workingC: doublePrecision('working_c').notNull(),
    tolerance: doublePrecision('tolerance').notNull(),
    intervalDays: integer('interval_days').notNull(),
    controls: text('controls').notNull().default(''),
    pointSet: jsonb('point_set').$type<string[]>().notNull(),
    createdAt: instant('created_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [unique('loops_name_in_site').on(t.siteId, t.name)],
);

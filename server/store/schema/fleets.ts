import { integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import type { Fleet } from '@frustum/core';
import { instant } from './instant.ts';

/** What this house's sensors of a family have taught, so that a start need not learn it again. */
export const fleets = pgTable(
  'fleets',
  {
    family: text('family').notNull(),
    /** the house's own name for a kind of sensor; '' = all of the family */
    model: text('model').notNull().default(''),
    /** of the engine that learned it */
    version: integer('version').notNull(),
    fleet: jsonb('fleet').$type<Fleet>().notNull(),
    /** finished runs of the whole house at that time */
    houseRuns: integer('house_runs').notNull(),
    learnedAt: instant('learned_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.family, t.model] })],
);

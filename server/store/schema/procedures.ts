import { sql } from 'drizzle-orm';
import { boolean, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { ExtraStep, OwnWords, ProcedureKind } from '@frustum/core';
import { instant } from './instant.ts';

/** A team's own procedures, every version: a run keeps the one that it was made with. */
export const procedures = pgTable(
  'procedures',
  {
    id: uuid('id').notNull(),
    version: integer('version').notNull(),
    family: text('family').notNull(),
    kind: text('kind').$type<ProcedureKind>().notNull(),
    name: text('name').notNull(),
    /** the order of its standards, by id; empty = as the loop has it */
    points: jsonb('points').$type<string[]>().notNull().default([]),
    school: text('school').$type<'statistical' | 'fixed-time' | 'hand-count' | ''>().notNull().default(''),
    seconds: integer('seconds'),
    words: jsonb('words').$type<Record<string, OwnWords>>().notNull().default({}),
    extra: jsonb('extra').$type<ExtraStep[]>().notNull().default([]),
    retired: boolean('retired').notNull().default(false),
    createdAt: instant('created_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [primaryKey({ columns: [t.id, t.version] })],
);

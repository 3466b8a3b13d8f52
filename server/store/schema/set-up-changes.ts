import { bigserial, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from './instant.ts';

/** One field that was changed. */
export interface FieldChange {
  readonly field: string;
  readonly from: unknown;
  readonly to: unknown;
}

/** What was changed in the set-up, in order. Append-only: nothing here is ever changed or removed. */
export const setUpChanges = pgTable(
  'set_up_changes',
  {
    id: uuid('id').primaryKey(),
    /** the order in which they were made */
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    of: text('of').$type<'site' | 'loop' | 'sensor' | 'channel'>().notNull(),
    subjectId: uuid('subject_id').notNull(),
    at: instant('at').notNull(),
    by: text('by').notNull(),
    why: text('why').notNull().default(''),
    fields: jsonb('fields').$type<readonly FieldChange[]>().notNull(),
  },
  (t) => [index('changes_of_subject').on(t.subjectId, t.seq)],
);

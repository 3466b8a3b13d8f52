import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { date, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { standards } from './standards.ts';

/** One purchased bottle or sachet batch of a standard. */
export const lots = pgTable(
  'lots',
  {
    id: uuid('id').primaryKey(),
    standardId: text('standard_id')
      .notNull()
      .references(() => standards.id),
    label: text('label').notNull(),
    expiresOn: date('expires_on', { mode: 'string' }).notNull(),
    openedOn: date('opened_on', { mode: 'string' }),
    createdAt: instant('created_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [unique('lots_label_of_standard').on(t.standardId, t.label)],
);

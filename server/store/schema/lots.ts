import type { LotId } from '@frustum/core';
import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { date, doublePrecision, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { standards } from './standards.ts';

/** One purchased bottle or sachet batch of a standard. */
export const lots = pgTable(
  'lots',
  {
    id: uuid('id').$type<LotId>().primaryKey(),
    standardId: text('standard_id')
      .notNull()
      .references(() => standards.id),
    label: text('label').notNull(),
    expiresOn: date('expires_on', { mode: 'string' }).notNull(),
    openedOn: date('opened_on', { mode: 'string' }),
    /** empty, or withdrawn by its maker */
    usedUpOn: date('used_up_on', { mode: 'string' }),
    /** what the label prints over temperature, °C and value; null = the standard's usual table */
    table: jsonb('table').$type<[number, number][]>(),
    /** the label's ±, k = 2; null with no table of its own */
    plusMinus: doublePrecision('plus_minus'),
    createdAt: instant('created_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [unique('lots_label_of_standard').on(t.standardId, t.label)],
);

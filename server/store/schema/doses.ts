import { doublePrecision, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { LoopId } from '@frustum/core';
import type { DOSE_UNITS } from '@frustum/contract';
import { instant } from './instant.ts';
import { loops } from './loops.ts';

/** What was dosed into the water of a loop: by its controller, or by hand after a look at its reading. */
export const doses = pgTable(
  'doses',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .$type<LoopId>()
      .notNull()
      .references(() => loops.id),
    at: instant('at').notNull(),
    what: text('what').notNull(),
    amount: doublePrecision('amount').notNull(),
    unit: text('unit').$type<(typeof DOSE_UNITS)[number]>().notNull(),
    /** when it was written down: what came in one file has the same; null for what came with a bundle */
    notedAt: instant('noted_at'),
  },
  (t) => [unique('dose_once').on(t.loopId, t.at, t.what)],
);

import { instant } from './instant.ts';
import { integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { RunEventBody, RunId } from '@frustum/core';
import { runs } from './runs.ts';

/** What happened in a run, in order. Append-only: nothing here is ever changed or removed. */
export const runEvents = pgTable(
  'run_events',
  {
    runId: uuid('run_id')
      .$type<RunId>()
      .notNull()
      .references(() => runs.id),
    seq: integer('seq').notNull(),
    device: text('device').notNull(),
    counter: integer('counter').notNull(),
    at: instant('at').notNull(),
    by: text('by').notNull(),
    body: jsonb('body').$type<RunEventBody>().notNull(),
    /** of the words that the body is written in: `replay` reads every version there was */
    version: integer('version').notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.seq] }), unique('event_once').on(t.runId, t.device, t.counter)],
);

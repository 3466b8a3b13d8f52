import { bigserial, doublePrecision, index, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { ChannelId, LoopId } from '@frustum/core';
import { channels } from './channels.ts';
import { instant } from './instant.ts';
import { loops } from './loops.ts';

/** One pass along the displays that are read by eye. */
export const walks = pgTable('walks', {
  id: uuid('id').primaryKey(),
  begunAt: instant('begun_at').notNull(),
  by: text('by').notNull(),
  /** null while it can be gone on with, from any device */
  endedAt: instant('ended_at'),
});

/** What was read off a display and typed. The last one of a loop in a walk counts. Append-only. */
export const walkReadings = pgTable(
  'walk_readings',
  {
    /** given by the device: the same one sent twice is there once */
    id: uuid('id').primaryKey(),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    walkId: uuid('walk_id')
      .notNull()
      .references(() => walks.id),
    loopId: uuid('loop_id')
      .$type<LoopId>()
      .notNull()
      .references(() => loops.id),
    channelId: uuid('channel_id')
      .$type<ChannelId>()
      .notNull()
      .references(() => channels.id),
    at: instant('at').notNull(),
    by: text('by').notNull(),
    /** as it was typed, and in which scale */
    typed: text('typed').notNull(),
    unit: text('unit').notNull(),
    /** in the family's own unit, as is its ± (half a step of the display) */
    value: doublePrecision('value').notNull(),
    plusMinus: doublePrecision('plus_minus').notNull(),
    /** what it looked like, where somebody said that it stands all the same; '' = nothing */
    doubt: text('doubt').notNull().default(''),
  },
  (t) => [index('readings_of_walk').on(t.walkId, t.seq)],
);

import { doublePrecision, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { ChannelConfig } from '@frustum/contract';
import { loops } from './loops.ts';

/** The input that a loop's sensor is plugged into, and how its reading reaches Frustum. */
export const channels = pgTable('channels', {
  id: uuid('id').primaryKey(),
  loopId: uuid('loop_id')
    .notNull()
    .unique()
    .references(() => loops.id),
  kind: text('kind').notNull(),
  config: jsonb('config').$type<ChannelConfig>().notNull(),
  /** smallest step of the signal, in its own unit */
  resolution: doublePrecision('resolution').notNull(),
  /** counts the changes, so that two people do not overwrite each other unseen */
  version: integer('version').notNull().default(1),
});

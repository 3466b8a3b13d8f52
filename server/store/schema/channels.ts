import { doublePrecision, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { ChannelConfig } from '@frustum/contract';
import type { ChannelId, LoopId } from '@frustum/core';
import { loops } from './loops.ts';

/** The input that a loop's sensor is plugged into, and how its reading reaches Frustum. */
export const channels = pgTable('channels', {
  id: uuid('id').$type<ChannelId>().primaryKey(),
  loopId: uuid('loop_id')
    .$type<LoopId>()
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

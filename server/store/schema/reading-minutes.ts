import type { ChannelId } from '@frustum/core';
import { boolean, doublePrecision, integer, pgTable, primaryKey, uuid } from 'drizzle-orm/pg-core';
import { channels } from './channels.ts';
import { instant } from './instant.ts';

/** What a channel gave in one minute: rolled up as the readings arrive, since a year of single ones is of no use. */
export const readingMinutes = pgTable(
  'reading_minutes',
  {
    channelId: uuid('channel_id')
      .$type<ChannelId>()
      .notNull()
      .references(() => channels.id),
    minute: instant('minute').notNull(),
    count: integer('count').notNull(),
    /** of the signal, in the channel's own unit */
    mean: doublePrecision('mean').notNull(),
    low: doublePrecision('low').notNull(),
    high: doublePrecision('high').notNull(),
    temperatureC: doublePrecision('temperature_c').notNull(),
    /** a run was under way: what the probe saw may have been a cup */
    onBench: boolean('on_bench').notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.channelId, t.minute] })],
);

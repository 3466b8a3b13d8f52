import { sql } from 'drizzle-orm';
import { pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { AlarmKind, SensorId } from '@frustum/core';
import { instant } from './instant.ts';
import { sensors } from './sensors.ts';

/** What somebody was told: raised once, acknowledged by a person, over when its cause is gone. */
export const alarms = pgTable(
  'alarms',
  {
    id: uuid('id').primaryKey(),
    /** the same cause has the same key */
    key: text('key').notNull(),
    kind: text('kind').$type<AlarmKind>().notNull(),
    sensorId: uuid('sensor_id')
      .$type<SensorId>()
      .references(() => sensors.id),
    text: text('text').notNull(),
    raisedAt: instant('raised_at').notNull(),
    acknowledgedAt: instant('acknowledged_at'),
    acknowledgedBy: text('acknowledged_by'),
    clearedAt: instant('cleared_at'),
  },
  (t) => [
    // While a cause lasts there is one alarm of it.
    uniqueIndex('one_standing_alarm')
      .on(t.key)
      .where(sql`cleared_at is null`),
  ],
);

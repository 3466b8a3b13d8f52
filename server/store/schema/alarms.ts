import { sql } from 'drizzle-orm';
import { jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { AlarmKind, AlarmLevel, MessageWay, SensorId } from '@frustum/core';
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
    /** how urgent it is: what goes on which way, and through a quiet night, follows from it */
    level: text('level').$type<AlarmLevel>().notNull().default('warn'),
    text: text('text').notNull(),
    raisedAt: instant('raised_at').notNull(),
    acknowledgedAt: instant('acknowledged_at'),
    acknowledgedBy: text('acknowledged_by'),
    clearedAt: instant('cleared_at'),
    /** ways on which it has gone, since it is told */
    told: jsonb('told').$type<MessageWay[]>().notNull().default([]),
    /** somebody wants to be told again then; null = not asked for */
    snoozedUntil: instant('snoozed_until'),
    /** since when it is told anew: it has become more urgent, or was snoozed until then; null = since it was raised */
    tellingSince: instant('telling_since'),
  },
  (t) => [
    // While a cause lasts there is one alarm of it.
    uniqueIndex('one_standing_alarm')
      .on(t.key)
      .where(sql`cleared_at is null`),
  ],
);

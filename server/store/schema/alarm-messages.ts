import type { AlarmLevel, MessageWay } from '@frustum/core';
import { bigserial, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from './instant.ts';

/** What is told of alarms beyond the screen. */
export interface AlarmMessage {
  readonly event:
    | 'raised'
    | 'acknowledged'
    | 'over'
    | 'snoozed'
    | 'again'
    | 'test'
    | 'started'
    | 'stopped'
    | 'alive'
    | 'gone';
  readonly at: string;
  readonly id: string;
  /** kind of the alarm; `frustum` for what is said of the server itself */
  readonly kind: string;
  /** how urgent it is; absent for what is said of the server itself */
  readonly level?: AlarmLevel;
  readonly text: string;
  /** who acknowledged it; '' otherwise */
  readonly by: string;
}

/** Messages that wait to be told, one row for each way out, written with what they tell of; gone from here once they are told. */
export const alarmMessages = pgTable(
  'alarm_messages',
  {
    id: uuid('id').primaryKey(),
    /** the order in which they are told */
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    way: text('way').$type<MessageWay>().notNull(),
    body: jsonb('body').$type<AlarmMessage>().notNull(),
    at: instant('at').notNull(),
    tries: integer('tries').notNull().default(0),
    /** why it could not be told the last time */
    trouble: text('trouble').notNull().default(''),
    /** since when nobody tries any more */
    givenUpAt: instant('given_up_at'),
  },
  (t) => [index('messages_in_order').on(t.way, t.seq)],
);

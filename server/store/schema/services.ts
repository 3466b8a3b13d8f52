import { pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { SensorId, ServiceEvent } from '@frustum/core';
import { instant } from './instant.ts';
import { sensors } from './sensors.ts';

/** What was done to a sensor outside of a run: cleaned, refilled, its tip replaced. */
export const services = pgTable(
  'services',
  {
    id: uuid('id').primaryKey(),
    sensorId: uuid('sensor_id')
      .$type<SensorId>()
      .notNull()
      .references(() => sensors.id),
    at: instant('at').notNull(),
    kind: text('kind').$type<ServiceEvent['kind']>().notNull(),
    note: text('note').notNull().default(''),
    by: text('by').notNull(),
    /** when it was written down; null for what came with a bundle */
    notedAt: instant('noted_at'),
  },
  (t) => [unique('service_once').on(t.sensorId, t.at, t.kind)],
);

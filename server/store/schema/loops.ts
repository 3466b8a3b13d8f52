import { sql } from 'drizzle-orm';
import { instant } from './instant.ts';
import { type AnyPgColumn, doublePrecision, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type {
  AlarmLimits,
  ControlAction,
  DueBy,
  LoopId,
  SiteId,
  SensorLimits,
  ShownAs,
  Surrounding,
  Takes,
} from '@frustum/core';
import { sites } from './sites.ts';

/** One measuring point: what is measured, where, its working value and tolerance, and what it controls. */
export const loops = pgTable(
  'loops',
  {
    id: uuid('id').$type<LoopId>().primaryKey(),
    siteId: uuid('site_id')
      .$type<SiteId>()
      .notNull()
      .references(() => sites.id),
    name: text('name').notNull(),
    place: text('place').notNull().default(''),
    family: text('family').notNull(),
    /** what the arithmetic must know of the sensor: cell constant, ion, reference and so on */
    settings: jsonb('settings').$type<Record<string, number | string>>().notNull().default({}),
    /** loops that show conditions of this one, by the condition's name */
    takes: jsonb('takes').$type<Takes>().notNull().default({}),
    workingValue: doublePrecision('working_value').notNull(),
    workingC: doublePrecision('working_c').notNull(),
    tolerance: doublePrecision('tolerance').notNull(),
    /** how its instrument writes its values; everything here is in the family's own unit */
    shownAs: jsonb('shown_as').$type<ShownAs>().notNull().default({ scale: '', step: null }),
    intervalDays: integer('interval_days').notNull(),
    /** what decides when the next run is due; by the forecast, the interval is the longest that it may take */
    dueBy: text('due_by').$type<DueBy>().notNull().default('calendar'),
    controls: text('controls').notNull().default(''),
    /** its output is held so long at most before somebody is told */
    holdMinutes: integer('hold_minutes').notNull().default(60),
    /** what its output does to the value: raises it, lowers it; '' = not said */
    controlAction: text('control_action').$type<ControlAction>().notNull().default(''),
    /** loops of one name here share a reference electrode; '' = its own */
    referenceGroup: text('reference_group').notNull().default(''),
    /** loops of one name here hang on one body; '' = with those on its reference */
    body: text('body').notNull().default(''),
    /** loops of one name here hang in the same water; '' = with those of its place and working value */
    water: text('water').notNull().default(''),
    /** the loop that this one stands in for when it fails; null = none */
    backupOf: uuid('backup_of')
      .$type<LoopId>()
      .references((): AnyPgColumn => loops.id),
    /** what a procedure must mind around it */
    surroundings: jsonb('surroundings').$type<Surrounding[]>().notNull().default([]),
    /** limits of its own, where they differ from the family's */
    limits: jsonb('limits').$type<Partial<SensorLimits>>().notNull().default({}),
    /** where its water should stay, and what else calls for somebody; {} = nothing was asked for */
    alarmLimits: jsonb('alarm_limits').$type<Partial<AlarmLimits>>().notNull().default({}),
    pointSet: jsonb('point_set').$type<string[]>().notNull(),
    /** its place in the order of one's own; those of one place come by their names */
    position: integer('position').notNull().default(0),
    /** counts the changes, so that two people do not overwrite each other unseen */
    version: integer('version').notNull().default(1),
    /** put away, with everything that it has been through; null while it is in use */
    archivedAt: instant('archived_at'),
    createdAt: instant('created_at')
      .notNull()
      .default(sql`now()`),
  },
  (t) => [unique('loops_name_in_site').on(t.siteId, t.name)],
);

import { boolean, doublePrecision, jsonb, pgTable, text } from 'drizzle-orm/pg-core';

/** Known solutions. The built-in ones are written at start; a team's own stand beside them. */
export const standards = pgTable('standards', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  family: text('family').notNull(),
  nominal: doublePrecision('nominal').notNull(),
  nominalAtC: doublePrecision('nominal_at_c').notNull(),
  table: jsonb('table').$type<[number, number][]>().notNull(),
  uncertainty: doublePrecision('uncertainty').notNull(),
  tableStep: doublePrecision('table_step').notNull(),
  source: text('source').notNull(),
  unit: text('unit').notNull().default('pH'),
  /** for redox standards: the reference that the value is printed against */
  against: text('against'),
  remedy: text('remedy'),
  inAir: boolean('in_air').notNull().default(false),
});

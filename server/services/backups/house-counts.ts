import type { HouseCounts } from '@frustum/contract';

const TABLE_OF: Readonly<Record<keyof HouseCounts, string>> = {
  loops: 'loops',
  sensors: 'sensors',
  runs: 'runs',
  events: 'run_events',
  minutes: 'reading_minutes',
  lots: 'lots',
  doses: 'doses',
  services: 'services',
  procedures: 'procedures',
  alarms: 'alarms',
  photos: 'photos',
};

/** What is counted, as people call it. */
export const COUNTED: Readonly<Record<keyof HouseCounts, string>> = {
  loops: 'loops',
  sensors: 'sensors',
  runs: 'runs',
  events: 'events',
  minutes: 'minutes',
  lots: 'bottles',
  doses: 'doses',
  services: 'services',
  procedures: 'procedures',
  alarms: 'alarms',
  photos: 'pictures',
};

export const countsIn = (rows: Readonly<Record<string, number>>): HouseCounts =>
  Object.fromEntries(
    Object.entries(TABLE_OF).map(([name, table]) => [name, rows[table] ?? 0]),
  ) as unknown as HouseCounts;

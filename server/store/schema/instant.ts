import { customType } from 'drizzle-orm/pg-core';

/** A moment in UTC: ISO 8601 in the application, timestamptz in the database, whatever string the driver gives. */
export const instant = customType<{ data: string; driverData: string }>({
  dataType: () => 'timestamp with time zone',
  toDriver: (value) => value,
  fromDriver: (value) => new Date(value).toISOString(),
});

-- Counted and not journalled, what the fleet had taught while a snapshot was made stood in its numbers and not in its rows.
DROP TRIGGER "fleets_inserted" ON "fleets";
--> statement-breakpoint
DROP TRIGGER "fleets_deleted" ON "fleets";
--> statement-breakpoint
DELETE FROM "row_counts" WHERE "table_name" = 'fleets';
--> statement-breakpoint
SELECT "watch_table"('fleets', true);
--> statement-breakpoint
UPDATE "row_counts" SET "rows" = (SELECT count(*) FROM "fleets") WHERE "table_name" = 'fleets';

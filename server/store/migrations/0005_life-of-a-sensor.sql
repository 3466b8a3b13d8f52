CREATE TABLE "sensor_events" (
	"id" uuid PRIMARY KEY NOT NULL,
	"seq" bigserial NOT NULL,
	"sensor_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"loop_id" uuid,
	"by" text NOT NULL,
	"why" text DEFAULT '' NOT NULL,
	"noted_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "fitted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "model" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "bought_on" date;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "storage" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "soaking_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "retired_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sensor_events" ADD CONSTRAINT "sensor_events_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sensor_events" ADD CONSTRAINT "sensor_events_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "events_of_sensor" ON "sensor_events" USING btree ("sensor_id","seq");--> statement-breakpoint
ALTER TABLE "sensors" ADD CONSTRAINT "one_sensor_a_loop" UNIQUE("loop_id");--> statement-breakpoint
SELECT "watch_table"('sensor_events', true);
--> statement-breakpoint
CREATE FUNCTION "sensor_events_are_kept"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'sensor_events is append-only';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER "sensor_events_append_only" BEFORE UPDATE OR DELETE ON "sensor_events"
  FOR EACH ROW EXECUTE FUNCTION "sensor_events_are_kept"();
--> statement-breakpoint
-- Sensors that are there already were fitted on the day that their set-up says.
INSERT INTO "sensor_events" ("id", "sensor_id", "at", "kind", "loop_id", "by", "noted_at")
SELECT gen_random_uuid(), "id", "fitted_on"::timestamp AT TIME ZONE 'UTC', 'fitted', "loop_id", '', "created_at" FROM "sensors" WHERE "loop_id" IS NOT NULL;

CREATE TABLE "notices" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"sensor_id" uuid,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	"noted_at" timestamp with time zone NOT NULL,
	CONSTRAINT "notice_once" UNIQUE("loop_id","at","kind")
);
--> statement-breakpoint
CREATE TABLE "walk_readings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"seq" bigserial NOT NULL,
	"walk_id" uuid NOT NULL,
	"loop_id" uuid NOT NULL,
	"channel_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"typed" text NOT NULL,
	"unit" text NOT NULL,
	"value" double precision NOT NULL,
	"plus_minus" double precision NOT NULL,
	"doubt" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "walks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"begun_at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "alarms" ADD COLUMN "level" text DEFAULT 'warn' NOT NULL;--> statement-breakpoint
ALTER TABLE "alarms" ADD COLUMN "told" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "alarms" ADD COLUMN "snoozed_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "alarms" ADD COLUMN "telling_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "shown_as" jsonb DEFAULT '{"scale":"","step":null}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "alarm_limits" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_readings" ADD CONSTRAINT "walk_readings_walk_id_walks_id_fk" FOREIGN KEY ("walk_id") REFERENCES "public"."walks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_readings" ADD CONSTRAINT "walk_readings_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "walk_readings" ADD CONSTRAINT "walk_readings_channel_id_channels_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channels"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notices_of_loop" ON "notices" USING btree ("loop_id","at");--> statement-breakpoint
CREATE INDEX "readings_of_walk" ON "walk_readings" USING btree ("walk_id","seq");--> statement-breakpoint
SELECT "watch_table"('notices', true);
--> statement-breakpoint
SELECT "watch_table"('walks', true);
--> statement-breakpoint
SELECT "watch_table"('walk_readings', true);
--> statement-breakpoint
CREATE FUNCTION "walk_readings_are_kept"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'walk_readings is append-only';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER "walk_readings_append_only" BEFORE UPDATE OR DELETE ON "walk_readings"
  FOR EACH ROW EXECUTE FUNCTION "walk_readings_are_kept"();

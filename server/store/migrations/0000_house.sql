CREATE TABLE "alarm_messages" (
	"id" uuid PRIMARY KEY NOT NULL,
	"seq" bigserial NOT NULL,
	"way" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"trouble" text DEFAULT '' NOT NULL,
	"given_up_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "alarms" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"kind" text NOT NULL,
	"sensor_id" uuid,
	"text" text NOT NULL,
	"raised_at" timestamp with time zone NOT NULL,
	"acknowledged_at" timestamp with time zone,
	"acknowledged_by" text,
	"cleared_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "channels" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"config" jsonb NOT NULL,
	"resolution" double precision NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "channels_loop_id_unique" UNIQUE("loop_id")
);
--> statement-breakpoint
CREATE TABLE "doses" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"what" text NOT NULL,
	"amount" double precision NOT NULL,
	"unit" text NOT NULL,
	"noted_at" timestamp with time zone,
	CONSTRAINT "dose_once" UNIQUE("loop_id","at","what")
);
--> statement-breakpoint
CREATE TABLE "fleets" (
	"family" text PRIMARY KEY NOT NULL,
	"version" integer NOT NULL,
	"fleet" jsonb NOT NULL,
	"house_runs" integer NOT NULL,
	"learned_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "house" (
	"id" uuid PRIMARY KEY NOT NULL,
	"begun_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "loops" (
	"id" uuid PRIMARY KEY NOT NULL,
	"site_id" uuid NOT NULL,
	"name" text NOT NULL,
	"place" text DEFAULT '' NOT NULL,
	"family" text NOT NULL,
	"settings" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"working_value" double precision NOT NULL,
	"working_c" double precision NOT NULL,
	"tolerance" double precision NOT NULL,
	"interval_days" integer NOT NULL,
	"due_by" text DEFAULT 'calendar' NOT NULL,
	"controls" text DEFAULT '' NOT NULL,
	"hold_minutes" integer DEFAULT 60 NOT NULL,
	"control_action" text DEFAULT '' NOT NULL,
	"reference_group" text DEFAULT '' NOT NULL,
	"surroundings" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"limits" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"point_set" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "loops_name_in_site" UNIQUE("site_id","name")
);
--> statement-breakpoint
CREATE TABLE "lots" (
	"id" uuid PRIMARY KEY NOT NULL,
	"standard_id" text NOT NULL,
	"label" text NOT NULL,
	"expires_on" date NOT NULL,
	"opened_on" date,
	"used_up_on" date,
	"table" jsonb,
	"plus_minus" double precision,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "lots_label_of_standard" UNIQUE("standard_id","label")
);
--> statement-breakpoint
CREATE TABLE "photos" (
	"id" uuid PRIMARY KEY NOT NULL,
	"run_id" uuid NOT NULL,
	"type" text NOT NULL,
	"bytes" integer NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "procedures" (
	"id" uuid NOT NULL,
	"version" integer NOT NULL,
	"family" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"points" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"school" text DEFAULT '' NOT NULL,
	"seconds" integer,
	"words" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"extra" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"retired" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "procedures_id_version_pk" PRIMARY KEY("id","version")
);
--> statement-breakpoint
CREATE TABLE "reading_minutes" (
	"channel_id" uuid NOT NULL,
	"minute" timestamp with time zone NOT NULL,
	"count" integer NOT NULL,
	"mean" double precision NOT NULL,
	"low" double precision NOT NULL,
	"high" double precision NOT NULL,
	"temperature_c" double precision NOT NULL,
	"on_bench" boolean DEFAULT false NOT NULL,
	CONSTRAINT "reading_minutes_channel_id_minute_pk" PRIMARY KEY("channel_id","minute")
);
--> statement-breakpoint
CREATE TABLE "row_counts" (
	"table_name" text PRIMARY KEY NOT NULL,
	"rows" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_events" (
	"run_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"device" text NOT NULL,
	"counter" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"body" jsonb NOT NULL,
	"version" integer NOT NULL,
	CONSTRAINT "run_events_run_id_seq_pk" PRIMARY KEY("run_id","seq"),
	CONSTRAINT "event_once" UNIQUE("run_id","device","counter")
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sensor_id" uuid NOT NULL,
	"loop_id" uuid NOT NULL,
	"status" text NOT NULL,
	"holding" boolean DEFAULT false NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"outcome" jsonb
);
--> statement-breakpoint
CREATE TABLE "sensors" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid,
	"name" text NOT NULL,
	"serial" text DEFAULT '' NOT NULL,
	"family" text NOT NULL,
	"fitted_on" date NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "services" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sensor_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	"noted_at" timestamp with time zone,
	CONSTRAINT "service_once" UNIQUE("sensor_id","at","kind")
);
--> statement-breakpoint
CREATE TABLE "sites" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"time_zone" text DEFAULT 'UTC' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sites_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "standards" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"family" text NOT NULL,
	"nominal" double precision NOT NULL,
	"nominal_at_c" double precision NOT NULL,
	"table" jsonb NOT NULL,
	"uncertainty" double precision NOT NULL,
	"table_step" double precision NOT NULL,
	"source" text NOT NULL,
	"unit" text DEFAULT 'pH' NOT NULL,
	"against" text,
	"remedy" text
);
--> statement-breakpoint
CREATE TABLE "users" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "users_name_unique" UNIQUE("name")
);
--> statement-breakpoint
ALTER TABLE "alarms" ADD CONSTRAINT "alarms_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "channels" ADD CONSTRAINT "channels_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "doses" ADD CONSTRAINT "doses_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loops" ADD CONSTRAINT "loops_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lots" ADD CONSTRAINT "lots_standard_id_standards_id_fk" FOREIGN KEY ("standard_id") REFERENCES "public"."standards"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photos" ADD CONSTRAINT "photos_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_minutes" ADD CONSTRAINT "reading_minutes_channel_id_channels_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channels"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_events" ADD CONSTRAINT "run_events_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sensors" ADD CONSTRAINT "sensors_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "services" ADD CONSTRAINT "services_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "messages_in_order" ON "alarm_messages" USING btree ("way","seq");--> statement-breakpoint
CREATE UNIQUE INDEX "one_standing_alarm" ON "alarms" USING btree ("key") WHERE cleared_at is null;--> statement-breakpoint
CREATE INDEX "runs_of_sensor" ON "runs" USING btree ("sensor_id","started_at");--> statement-breakpoint
CREATE UNIQUE INDEX "one_open_run" ON "runs" USING btree ("sensor_id") WHERE status = 'open';--> statement-breakpoint
-- A run is its events: nothing in them is ever changed or removed, not even by the application.
CREATE FUNCTION "run_events_are_kept"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'run_events is append-only';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER "run_events_append_only" BEFORE UPDATE OR DELETE ON "run_events"
  FOR EACH ROW EXECUTE FUNCTION "run_events_are_kept"();
--> statement-breakpoint
-- Every row that is written goes into the session's own list, which the journal is written from (store/changes.ts).
CREATE FUNCTION "note_changes"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  n bigint;
BEGIN
  IF TG_OP = 'DELETE' THEN
    INSERT INTO pg_temp.changes ("table_name", "gone", "row") SELECT TG_TABLE_NAME, true, to_jsonb(o) FROM old_rows o;
  ELSE
    INSERT INTO pg_temp.changes ("table_name", "gone", "row") SELECT TG_TABLE_NAME, false, to_jsonb(w) FROM new_rows w;
  END IF;
  GET DIAGNOSTICS n = ROW_COUNT;
  IF TG_OP <> 'UPDATE' AND n > 0 THEN
    UPDATE "row_counts" SET "rows" = "rows" + CASE TG_OP WHEN 'INSERT' THEN n ELSE -n END WHERE "table_name" = TG_TABLE_NAME;
  END IF;
  RETURN NULL;
END;
$$;
--> statement-breakpoint
-- What the fleet has taught is worked out again by itself, and needs no journal.
CREATE FUNCTION "count_rows"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  n bigint;
BEGIN
  IF TG_OP = 'DELETE' THEN
    SELECT -count(*) INTO n FROM old_rows;
  ELSE
    SELECT count(*) INTO n FROM new_rows;
  END IF;
  UPDATE "row_counts" SET "rows" = "rows" + n WHERE "table_name" = TG_TABLE_NAME;
  RETURN NULL;
END;
$$;
--> statement-breakpoint
-- A later migration that adds a table calls this for it (store/tables.spec.ts looks that none was forgotten).
CREATE FUNCTION "watch_table"("name" text, "journalled" boolean) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO "row_counts" ("table_name", "rows") VALUES ("name", 0);
  EXECUTE format('CREATE TRIGGER %I AFTER INSERT ON %I REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION %I()', "name" || '_inserted', "name", CASE WHEN "journalled" THEN 'note_changes' ELSE 'count_rows' END);
  EXECUTE format('CREATE TRIGGER %I AFTER DELETE ON %I REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION %I()', "name" || '_deleted', "name", CASE WHEN "journalled" THEN 'note_changes' ELSE 'count_rows' END);
  IF "journalled" THEN
    EXECUTE format('CREATE TRIGGER %I AFTER UPDATE ON %I REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION note_changes()', "name" || '_updated', "name");
  END IF;
END;
$$;
--> statement-breakpoint
SELECT "watch_table"("name", true) FROM unnest(ARRAY['sites', 'loops', 'sensors', 'channels', 'standards', 'lots', 'runs', 'run_events', 'photos', 'procedures', 'services', 'doses', 'reading_minutes', 'alarms', 'alarm_messages', 'users']) AS "name";
--> statement-breakpoint
SELECT "watch_table"('fleets', false);

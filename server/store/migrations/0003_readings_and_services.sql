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
CREATE TABLE "services" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sensor_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	CONSTRAINT "service_once" UNIQUE("sensor_id","at","kind")
);
--> statement-breakpoint
ALTER TABLE "channels" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_minutes" ADD CONSTRAINT "reading_minutes_channel_id_channels_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channels"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "services" ADD CONSTRAINT "services_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- The span of a current has a unit of its own now.
UPDATE "channels" SET "config" = ("config" - 'mvAt4' - 'mvAt20') || jsonb_build_object('at4', "config"->'mvAt4', 'at20', "config"->'mvAt20') WHERE "config" ? 'mvAt4';

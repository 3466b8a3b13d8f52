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
ALTER TABLE "alarms" ADD CONSTRAINT "alarms_sensor_id_sensors_id_fk" FOREIGN KEY ("sensor_id") REFERENCES "public"."sensors"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "one_standing_alarm" ON "alarms" USING btree ("key") WHERE cleared_at is null;
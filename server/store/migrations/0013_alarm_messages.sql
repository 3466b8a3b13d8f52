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
CREATE INDEX "messages_in_order" ON "alarm_messages" USING btree ("way","seq");
CREATE TABLE "set_up_changes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"seq" bigserial NOT NULL,
	"of" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"why" text DEFAULT '' NOT NULL,
	"fields" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "position" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sensors" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "sites" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "sites" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "changes_of_subject" ON "set_up_changes" USING btree ("subject_id","seq");--> statement-breakpoint
SELECT "watch_table"('set_up_changes', true);
--> statement-breakpoint
-- What was changed, by whom and why, is never changed or removed, not even by the application.
CREATE FUNCTION "set_up_changes_are_kept"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'set_up_changes is append-only';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER "set_up_changes_append_only" BEFORE UPDATE OR DELETE ON "set_up_changes"
  FOR EACH ROW EXECUTE FUNCTION "set_up_changes_are_kept"();

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
ALTER TABLE "loops" ADD COLUMN "control_action" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "reference_group" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "surroundings" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "lots" ADD COLUMN "used_up_on" date;--> statement-breakpoint
ALTER TABLE "standards" ADD COLUMN "unit" text DEFAULT 'pH' NOT NULL;--> statement-breakpoint
ALTER TABLE "standards" ADD COLUMN "against" text;--> statement-breakpoint
ALTER TABLE "standards" ADD COLUMN "remedy" text;--> statement-breakpoint
ALTER TABLE "photos" ADD CONSTRAINT "photos_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;
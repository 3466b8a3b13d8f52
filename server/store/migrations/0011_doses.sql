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
ALTER TABLE "doses" ADD CONSTRAINT "doses_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;
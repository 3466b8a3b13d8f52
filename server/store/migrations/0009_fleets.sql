CREATE TABLE "fleets" (
	"family" text PRIMARY KEY NOT NULL,
	"version" integer NOT NULL,
	"fleet" jsonb NOT NULL,
	"house_runs" integer NOT NULL,
	"learned_at" timestamp with time zone NOT NULL
);

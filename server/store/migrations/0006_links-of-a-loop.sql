ALTER TABLE "loops" ADD COLUMN "body" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "water" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "backup_of" uuid;--> statement-breakpoint
ALTER TABLE "loops" ADD CONSTRAINT "loops_backup_of_loops_id_fk" FOREIGN KEY ("backup_of") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;
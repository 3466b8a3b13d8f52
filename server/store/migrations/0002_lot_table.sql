ALTER TABLE "lots" ADD COLUMN "table" jsonb;--> statement-breakpoint
ALTER TABLE "lots" ADD COLUMN "plus_minus" double precision;
ALTER TABLE "fleets" ADD COLUMN "model" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "fleets" DROP CONSTRAINT "fleets_pkey";--> statement-breakpoint
ALTER TABLE "fleets" ADD CONSTRAINT "fleets_family_model_pk" PRIMARY KEY("family","model");

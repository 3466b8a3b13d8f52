-- The same words for every family: value and tolerance of a loop, zero and sensitivity of a sensor, signal of a capture.
ALTER TABLE "loops" RENAME COLUMN "working_ph" TO "working_value";
--> statement-breakpoint
ALTER TABLE "loops" RENAME COLUMN "tolerance_ph" TO "tolerance";
--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "settings" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
-- Events stay what they were: only the names of their fields follow, so that an old record can still be read.
CREATE FUNCTION "in_one_vocabulary"(record jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
DECLARE
  text_ text := record::text;
  pair text[];
BEGIN
  FOREACH pair SLICE 1 IN ARRAY ARRAY[
    ['potentialUncertaintyMv', 'signalUncertainty'], ['potentialMv', 'signal'], ['resolutionMv', 'resolution'],
    ['zeroMv', 'zero'], ['slope', 'sensitivity'], ['slopeSd', 'sensitivitySd'], ['slopeLow', 'sensitivityLow'],
    ['slopeHigh', 'sensitivityHigh'], ['slopeDead', 'sensitivityDead'], ['workingPh', 'workingValue'],
    ['tolerancePh', 'tolerance'], ['readBackPh', 'readBackShown']
  ] LOOP
    text_ := replace(text_, '"' || pair[1] || '": ', '"' || pair[2] || '": ');
  END LOOP;
  RETURN text_::jsonb;
END;
$$;
--> statement-breakpoint
ALTER TABLE "run_events" DISABLE TRIGGER "run_events_append_only";
--> statement-breakpoint
UPDATE "run_events" SET "body" = "in_one_vocabulary"("body") WHERE "body"->>'type' IN ('started', 'captured', 'adjusted');
--> statement-breakpoint
ALTER TABLE "run_events" ENABLE TRIGGER "run_events_append_only";
--> statement-breakpoint
UPDATE "runs" SET "outcome" = "in_one_vocabulary"("outcome") WHERE "outcome" IS NOT NULL;
--> statement-breakpoint
DROP FUNCTION "in_one_vocabulary"(jsonb);

-- A run is its events: nothing in them is ever changed or removed, not even by the application.
CREATE FUNCTION "run_events_are_kept"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'run_events is append-only';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER "run_events_append_only" BEFORE UPDATE OR DELETE ON "run_events"
  FOR EACH ROW EXECUTE FUNCTION "run_events_are_kept"();

ALTER TABLE "derived_assets" ADD COLUMN "bytes" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "derived_assets" ADD COLUMN "used" timestamp with time zone DEFAULT now() NOT NULL;
--> statement-breakpoint
-- Jobs of the queue that was for motion alone: pages ask for them again; what was measured stays.
DELETE FROM "derived_assets" WHERE "state" IN ('waiting', 'running');

ALTER TABLE "clips" ADD COLUMN "status" text DEFAULT 'open' NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "note" text DEFAULT '' NOT NULL;
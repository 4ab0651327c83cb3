ALTER TABLE "clips" ADD COLUMN "scene" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "follows" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "trims" jsonb DEFAULT '{}'::jsonb NOT NULL;
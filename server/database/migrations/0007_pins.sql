ALTER TABLE "clips" ADD COLUMN "pins" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "pins" jsonb DEFAULT '{}'::jsonb NOT NULL;
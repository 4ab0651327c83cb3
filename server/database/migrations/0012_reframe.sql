ALTER TABLE "clips" ADD COLUMN "reframe" jsonb;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "reframe" jsonb;
ALTER TABLE "clips" ADD COLUMN "retime" jsonb;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "retime" jsonb;
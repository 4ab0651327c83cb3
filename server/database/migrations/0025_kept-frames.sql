ALTER TABLE "deliveries" ADD COLUMN "keeps" text;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "clip_id" uuid;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "first" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD CONSTRAINT "delivery_items_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE cascade ON UPDATE no action;
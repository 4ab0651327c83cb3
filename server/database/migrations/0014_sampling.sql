ALTER TABLE "clip_statistics" ADD COLUMN "sampling" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "clip_statistics" DROP CONSTRAINT "clip_statistics_hash_encoding_pk";--> statement-breakpoint
ALTER TABLE "clip_statistics" ADD CONSTRAINT "clip_statistics_hash_encoding_sampling_pk" PRIMARY KEY("hash","encoding","sampling");--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "sampling" jsonb;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "sampling" jsonb;

DROP INDEX "clips_project_id_hash_index";--> statement-breakpoint
ALTER TABLE "clip_statistics" DROP CONSTRAINT "clip_statistics_hash_encoding_sampling_pk";--> statement-breakpoint
ALTER TABLE "clips" ALTER COLUMN "place" SET DATA TYPE double precision;--> statement-breakpoint
ALTER TABLE "clip_statistics" ADD COLUMN "stretch" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "clip_statistics" ADD CONSTRAINT "clip_statistics_hash_encoding_sampling_stretch_pk" PRIMARY KEY("hash","encoding","sampling","stretch");--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "in_out" jsonb;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "cuts_said" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "in_out" jsonb;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "cuts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "footage" ADD COLUMN "cuts" jsonb;--> statement-breakpoint
CREATE INDEX "clips_project_id_hash_index" ON "clips" USING btree ("project_id","hash");
CREATE TABLE "inspections" (
	"clip_id" uuid PRIMARY KEY NOT NULL,
	"of" text NOT NULL,
	"state" "work_state" DEFAULT 'waiting' NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"flags" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"error" text
);
--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "accepted" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "inspections" ADD CONSTRAINT "inspections_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE cascade ON UPDATE no action;
ALTER TABLE "footage" ADD COLUMN "index" jsonb DEFAULT '{"times":[],"hashes":[]}'::jsonb NOT NULL;--> statement-breakpoint
UPDATE "footage" SET
	"index" = "facts" -> 'index',
	"facts" = ("facts" - 'index') || jsonb_build_object('sourceFrames', jsonb_array_length("facts" -> 'index' -> 'hashes'))
WHERE "facts" ? 'index';

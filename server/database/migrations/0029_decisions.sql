ALTER TABLE "clips" ADD COLUMN "decided" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "subject" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
UPDATE "clips" SET "decided" = jsonb_build_object(
	'encoding', "encoding", 'sampling', "sampling", 'fit', "fit", 'reframe', "reframe",
	'balance', "balance", 'role', "role", 'plate', "plate", 'inOut', "in_out",
	'cutsSaid', "cuts_said", 'retime', "retime", 'pins', "pins", 'trims', "trims",
	'follows', "follows", 'accepted', "accepted", 'status', "status", 'note', "note",
	'scene', "scene");--> statement-breakpoint
UPDATE "delivery_items" SET "subject" = jsonb_build_object(
	'encoding', "encoding", 'sampling', "sampling", 'fit', "fit", 'reframe', "reframe",
	'balance', "balance", 'inOut', "in_out", 'retime', "retime", 'pins', "pins",
	'cuts', "cuts", 'beside', "beside");

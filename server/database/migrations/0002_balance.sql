CREATE TABLE "clip_statistics" (
	"hash" text NOT NULL,
	"encoding" text NOT NULL,
	"statistics" jsonb NOT NULL,
	CONSTRAINT "clip_statistics_hash_encoding_pk" PRIMARY KEY("hash","encoding")
);
--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "balance" jsonb;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "balance" jsonb;--> statement-breakpoint
ALTER TABLE "clip_statistics" ADD CONSTRAINT "clip_statistics_hash_footage_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."footage"("hash") ON DELETE cascade ON UPDATE no action;
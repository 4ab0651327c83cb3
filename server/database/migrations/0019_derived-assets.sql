CREATE TABLE "derived_assets" (
	"hash" text NOT NULL,
	"kind" text NOT NULL,
	"method" text NOT NULL,
	"state" "work_state" DEFAULT 'waiting' NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"error" text,
	CONSTRAINT "derived_assets_hash_kind_method_pk" PRIMARY KEY("hash","kind","method")
);
--> statement-breakpoint
ALTER TABLE "derived_assets" ADD CONSTRAINT "derived_assets_hash_footage_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."footage"("hash") ON DELETE cascade ON UPDATE no action;
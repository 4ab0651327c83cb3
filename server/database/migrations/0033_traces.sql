CREATE TABLE "traces" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"name" text NOT NULL,
	"given" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "derived_assets" DROP CONSTRAINT "derived_assets_hash_kind_method_pk";
--> statement-breakpoint
ALTER TABLE "derived_assets" ADD COLUMN "of" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "derived_assets" ADD CONSTRAINT "derived_assets_hash_kind_method_of_pk" PRIMARY KEY("hash","kind","method","of");
--> statement-breakpoint
ALTER TABLE "derived_assets" ADD COLUMN "given" jsonb;
--> statement-breakpoint
ALTER TABLE "traces" ADD CONSTRAINT "traces_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "traces" ADD CONSTRAINT "traces_hash_footage_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."footage"("hash") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "traces_project_id_hash_index" ON "traces" USING btree ("project_id","hash");

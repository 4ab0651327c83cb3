CREATE TABLE "sound_files" (
	"hash" text PRIMARY KEY NOT NULL,
	"bytes" bigint NOT NULL,
	"file" text NOT NULL,
	"facts" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sounds" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"name" text NOT NULL,
	"beats" jsonb DEFAULT '{"counted":"each","odd":false,"bar":4,"begins":0}'::jsonb NOT NULL,
	"removed" timestamp with time zone,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sounds" ADD CONSTRAINT "sounds_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sounds" ADD CONSTRAINT "sounds_hash_sound_files_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."sound_files"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sounds_project_id_hash_index" ON "sounds" USING btree ("project_id","hash");
CREATE TABLE "kept_references" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"clip_id" uuid,
	"clip_name" text NOT NULL,
	"frame" integer NOT NULL,
	"version_id" uuid,
	"document" jsonb NOT NULL,
	"picture" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "kept_references" ADD CONSTRAINT "kept_references_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_references" ADD CONSTRAINT "kept_references_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_references" ADD CONSTRAINT "kept_references_version_id_look_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."look_versions"("id") ON DELETE set null ON UPDATE no action;
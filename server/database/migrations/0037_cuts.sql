CREATE TABLE "cut_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cuts" (
	"project_id" uuid PRIMARY KEY NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "delivery_items" ALTER COLUMN "hash" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ALTER COLUMN "subject" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD COLUMN "cut" jsonb;--> statement-breakpoint
ALTER TABLE "cut_versions" ADD CONSTRAINT "cut_versions_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cuts" ADD CONSTRAINT "cuts_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "cut_versions_project_id_number_index" ON "cut_versions" USING btree ("project_id","number");
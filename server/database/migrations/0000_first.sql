CREATE TYPE "public"."work_state" AS ENUM('waiting', 'running', 'done', 'failed', 'cancelled');--> statement-breakpoint
CREATE TABLE "chunks" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"item_id" uuid NOT NULL,
	"attempt" integer NOT NULL,
	"first" integer NOT NULL,
	"count" integer NOT NULL,
	"rendered" integer DEFAULT 0 NOT NULL,
	"done" boolean DEFAULT false NOT NULL,
	"hashes" jsonb
);
--> statement-breakpoint
CREATE TABLE "clips" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"name" text NOT NULL,
	"place" integer NOT NULL,
	"encoding" text NOT NULL,
	"fit" text DEFAULT 'fit' NOT NULL,
	"look_version_id" uuid,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "deliveries" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"format" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "delivery_items" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"delivery_id" uuid NOT NULL,
	"clip_name" text NOT NULL,
	"hash" text NOT NULL,
	"encoding" text NOT NULL,
	"fit" text NOT NULL,
	"look_name" text,
	"look" jsonb,
	"state" "work_state" DEFAULT 'waiting' NOT NULL,
	"frames" integer NOT NULL,
	"error" text,
	"file" text,
	"bytes" bigint,
	"attempt" integer DEFAULT 1 NOT NULL,
	"started" timestamp with time zone,
	"ended" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "footage" (
	"hash" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"bytes" bigint NOT NULL,
	"file" text NOT NULL,
	"facts" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"files" jsonb NOT NULL,
	"state" "work_state" DEFAULT 'waiting' NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"doing" text DEFAULT '' NOT NULL,
	"error" text,
	"clip_id" uuid,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "look_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"look_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"document" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "looks" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"rate_num" integer NOT NULL,
	"rate_den" integer NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"host" text NOT NULL,
	"pid" integer NOT NULL,
	"seen" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "chunks" ADD CONSTRAINT "chunks_item_id_delivery_items_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."delivery_items"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_hash_footage_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."footage"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_look_version_id_look_versions_id_fk" FOREIGN KEY ("look_version_id") REFERENCES "public"."look_versions"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD CONSTRAINT "delivery_items_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery_items" ADD CONSTRAINT "delivery_items_hash_footage_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."footage"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "look_versions" ADD CONSTRAINT "look_versions_look_id_looks_id_fk" FOREIGN KEY ("look_id") REFERENCES "public"."looks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "chunks_item_id_attempt_first_index" ON "chunks" USING btree ("item_id","attempt","first");--> statement-breakpoint
CREATE UNIQUE INDEX "clips_project_id_hash_index" ON "clips" USING btree ("project_id","hash");--> statement-breakpoint
CREATE UNIQUE INDEX "look_versions_look_id_number_index" ON "look_versions" USING btree ("look_id","number");
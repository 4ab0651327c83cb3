ALTER TABLE "projects" ADD COLUMN "touched" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "removed" timestamp with time zone;
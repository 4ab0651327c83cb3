CREATE TABLE "job_deaths" (
	"job" uuid PRIMARY KEY NOT NULL,
	"deaths" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "workers" ADD COLUMN "waiting" jsonb DEFAULT '[]'::jsonb NOT NULL;
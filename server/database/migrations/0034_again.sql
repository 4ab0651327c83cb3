ALTER TABLE "imports" RENAME COLUMN "progressive" TO "again";
--> statement-breakpoint
UPDATE "imports" SET "again" = "again" || '{"made":"progressive"}' WHERE "again" IS NOT NULL;

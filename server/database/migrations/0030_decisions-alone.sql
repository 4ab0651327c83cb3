ALTER TABLE "clips" ALTER COLUMN "decided" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "delivery_items" ALTER COLUMN "subject" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "encoding";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "sampling";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "fit";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "reframe";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "in_out";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "cuts_said";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "retime";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "status";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "note";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "role";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "scene";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "follows";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "trims";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "pins";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "balance";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "plate";--> statement-breakpoint
ALTER TABLE "clips" DROP COLUMN "accepted";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "encoding";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "sampling";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "fit";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "reframe";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "in_out";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "cuts";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "retime";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "balance";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "pins";--> statement-breakpoint
ALTER TABLE "delivery_items" DROP COLUMN "beside";--> statement-breakpoint
ALTER TABLE "workers" DROP COLUMN "waiting";
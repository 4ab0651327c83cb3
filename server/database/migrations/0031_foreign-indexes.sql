CREATE INDEX "clips_hash_index" ON "clips" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "clips_look_version_id_index" ON "clips" USING btree ("look_version_id");--> statement-breakpoint
CREATE INDEX "deliveries_project_id_index" ON "deliveries" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "delivery_items_delivery_id_index" ON "delivery_items" USING btree ("delivery_id");--> statement-breakpoint
CREATE INDEX "delivery_items_clip_id_index" ON "delivery_items" USING btree ("clip_id");--> statement-breakpoint
CREATE INDEX "imports_project_id_index" ON "imports" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "kept_references_project_id_index" ON "kept_references" USING btree ("project_id");
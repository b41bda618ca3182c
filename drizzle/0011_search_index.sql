DROP INDEX "entry_words";--> statement-breakpoint
DROP INDEX "entry_facets";--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "is_front" boolean DEFAULT true NOT NULL;--> statement-breakpoint
CREATE INDEX "entry_search" ON "entry" USING gin ("words","facets");--> statement-breakpoint
CREATE INDEX "entry_front" ON "entry" USING gin ("words","facets") WHERE "entry"."is_front";--> statement-breakpoint
CREATE INDEX "entry_successor" ON "entry" USING btree ("successor_id");
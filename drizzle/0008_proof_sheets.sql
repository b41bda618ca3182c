ALTER TABLE "release" ADD COLUMN "sheet" jsonb;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "sheet_hash" text;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_sheet_hash_blob_hash_fk" FOREIGN KEY ("sheet_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;
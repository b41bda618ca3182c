CREATE TABLE "preset" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"rack" text NOT NULL,
	"name" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"tags" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"value" jsonb NOT NULL,
	"entry_id" text,
	"swatch_hash" text,
	"author_id" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"words" "tsvector" DEFAULT '' NOT NULL
);
--> statement-breakpoint
-- Ramps that people kept stand on their own racks now.
INSERT INTO "preset" ("id", "kind", "rack", "name", "value", "author_id", "created_at",
    "updated_at", "words")
  SELECT "id", 'ramp', 'person:' || "owner_id", "name", "ramp", "owner_id", "created_at",
    "created_at", setweight(to_tsvector('english', "name"), 'A')
  FROM "kept_ramp";--> statement-breakpoint
DROP TABLE "kept_ramp" CASCADE;--> statement-breakpoint
ALTER TABLE "preset" ADD CONSTRAINT "preset_entry_id_entry_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."entry"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preset" ADD CONSTRAINT "preset_swatch_hash_blob_hash_fk" FOREIGN KEY ("swatch_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preset" ADD CONSTRAINT "preset_author_id_user_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."user"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "preset_name" ON "preset" USING btree ("rack","kind","name");--> statement-breakpoint
CREATE INDEX "preset_words" ON "preset" USING gin ("words");--> statement-breakpoint
CREATE INDEX "preset_entry" ON "preset" USING btree ("entry_id");--> statement-breakpoint
CREATE INDEX "preset_swatch" ON "preset" USING btree ("swatch_hash");

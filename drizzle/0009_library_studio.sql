CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "consequence" (
	"outlook_id" text NOT NULL,
	"material_id" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"revision" integer,
	"from_version" text,
	"share" real,
	"mean" real,
	"before_hash" text,
	"after_hash" text,
	"changes" jsonb,
	"lost" jsonb,
	"reason" text,
	CONSTRAINT "consequence_outlook_id_material_id_pk" PRIMARY KEY("outlook_id","material_id")
);
--> statement-breakpoint
CREATE TABLE "entry_use" (
	"material_id" text NOT NULL,
	"entry_id" text NOT NULL,
	"version" text NOT NULL,
	"pinned" text,
	CONSTRAINT "entry_use_material_id_entry_id_version_pk" PRIMARY KEY("material_id","entry_id","version")
);
--> statement-breakpoint
CREATE TABLE "outlook" (
	"id" text PRIMARY KEY NOT NULL,
	"entry_id" text NOT NULL,
	"version" text,
	"groups" jsonb NOT NULL,
	"user_id" text NOT NULL,
	"hidden" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "taking" (
	"material_id" text NOT NULL,
	"entry_id" text NOT NULL,
	"revision" integer NOT NULL,
	"from_version" text NOT NULL,
	"to_version" text NOT NULL,
	"lost" jsonb NOT NULL,
	"user_id" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "taking_material_id_entry_id_revision_pk" PRIMARY KEY("material_id","entry_id","revision")
);
--> statement-breakpoint
ALTER TABLE "release" ALTER COLUMN "proof" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "cover_hash" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "deprecated_reason" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "successor_id" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "withdrawn_reason" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "version" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "swatch_hash" text;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "released_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "facets" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "words" "tsvector" DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "letters" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "uses" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "state" text DEFAULT 'out' NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "class" text DEFAULT 'first' NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "base_version" text;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "comparison" jsonb;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "remarks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "decided_by" text;--> statement-breakpoint
ALTER TABLE "release" ADD COLUMN "decided_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "consequence" ADD CONSTRAINT "consequence_outlook_id_outlook_id_fk" FOREIGN KEY ("outlook_id") REFERENCES "public"."outlook"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consequence" ADD CONSTRAINT "consequence_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consequence" ADD CONSTRAINT "consequence_before_hash_blob_hash_fk" FOREIGN KEY ("before_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consequence" ADD CONSTRAINT "consequence_after_hash_blob_hash_fk" FOREIGN KEY ("after_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entry_use" ADD CONSTRAINT "entry_use_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outlook" ADD CONSTRAINT "outlook_entry_id_entry_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."entry"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outlook" ADD CONSTRAINT "outlook_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taking" ADD CONSTRAINT "taking_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taking" ADD CONSTRAINT "taking_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "consequence_before" ON "consequence" USING btree ("before_hash");--> statement-breakpoint
CREATE INDEX "consequence_after" ON "consequence" USING btree ("after_hash");--> statement-breakpoint
CREATE INDEX "entry_use_entry" ON "entry_use" USING btree ("entry_id");--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_cover_hash_blob_hash_fk" FOREIGN KEY ("cover_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_successor_id_entry_id_fk" FOREIGN KEY ("successor_id") REFERENCES "public"."entry"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_swatch_hash_blob_hash_fk" FOREIGN KEY ("swatch_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_decided_by_user_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."user"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "entry_words" ON "entry" USING gin ("words");--> statement-breakpoint
CREATE INDEX "entry_titles" ON "entry" USING gin (ts_filter("words", '{a}'));--> statement-breakpoint
CREATE INDEX "entry_facets" ON "entry" USING gin ("facets");--> statement-breakpoint
CREATE INDEX "entry_letters" ON "entry" USING gin ("letters" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "entry_uses" ON "entry" USING btree ("uses" DESC NULLS LAST,"id");--> statement-breakpoint
CREATE INDEX "entry_released" ON "entry" USING btree ("released_at" DESC NULLS LAST,"id");--> statement-breakpoint
CREATE INDEX "entry_name" ON "entry" USING btree ("name","id");--> statement-breakpoint
CREATE INDEX "entry_cover" ON "entry" USING btree ("cover_hash");--> statement-breakpoint
CREATE INDEX "material_swatch" ON "material" USING btree ("swatch_hash");--> statement-breakpoint
CREATE INDEX "release_swatch" ON "release" USING btree ("swatch_hash");--> statement-breakpoint
CREATE INDEX "release_sheet" ON "release" USING btree ("sheet_hash");--> statement-breakpoint
CREATE UNIQUE INDEX "release_proposed" ON "release" USING btree ("entry_id") WHERE "release"."state" = 'proposed';--> statement-breakpoint
-- What earlier releases of the program kept without these columns.
UPDATE "entry" SET ("version", "swatch_hash", "released_at") = (
  SELECT r."version", r."swatch_hash", r."created_at" FROM "release" r
  WHERE r."entry_id" = "entry"."id" AND r."withdrawn_at" IS NULL
  ORDER BY r."created_at" DESC LIMIT 1
);--> statement-breakpoint
INSERT INTO "entry_use" ("material_id", "entry_id", "version")
  SELECT DISTINCT m."id", g.value #>> '{release,entryId}', g.value #>> '{release,version}'
  FROM "material" m
  JOIN "revision" v ON v."material_id" = m."id" AND v."number" = m."head"
  CROSS JOIN LATERAL jsonb_each(v."document" -> 'groups') g
  WHERE g.value ? 'release';--> statement-breakpoint
UPDATE "entry" SET "uses" = (
  SELECT count(DISTINCT u."material_id") FROM "entry_use" u WHERE u."entry_id" = "entry"."id"
);

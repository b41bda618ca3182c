-- The first letter and the first two of each word.
CREATE FUNCTION word_beginnings(tsvector) RETURNS text[] LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE
  AS $$ SELECT array(SELECT DISTINCT left(lexeme, letters)
    FROM unnest($1), generate_series(1, 2) AS letters) $$;--> statement-breakpoint
DROP INDEX "entry_search";--> statement-breakpoint
DROP INDEX "entry_front";--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN "beginnings" text[] GENERATED ALWAYS AS (word_beginnings(words)) STORED;--> statement-breakpoint
CREATE INDEX "entry_search" ON "entry" USING gin ("words","facets","beginnings");--> statement-breakpoint
CREATE INDEX "entry_front" ON "entry" USING gin ("words","facets","beginnings") WHERE "entry"."is_front";
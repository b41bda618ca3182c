CREATE TABLE "mesh_map" (
	"model_key" text NOT NULL,
	"map_key" text NOT NULL,
	"size" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "mesh_map_model_key_map_key_size_pk" PRIMARY KEY("model_key","map_key","size")
);
--> statement-breakpoint
ALTER TABLE "model" ADD COLUMN "preparation" jsonb DEFAULT '{}'::jsonb NOT NULL;
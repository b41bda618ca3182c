CREATE TABLE "kept_ramp" (
	"id" text PRIMARY KEY NOT NULL,
	"owner_id" text NOT NULL,
	"name" text NOT NULL,
	"ramp" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "material" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "model" ADD COLUMN "former_blob_hash" text;--> statement-breakpoint
ALTER TABLE "model" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "kept_ramp" ADD CONSTRAINT "kept_ramp_owner_id_user_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "kept_ramp_name" ON "kept_ramp" USING btree ("owner_id","name");--> statement-breakpoint
ALTER TABLE "model" ADD CONSTRAINT "model_former_blob_hash_blob_hash_fk" FOREIGN KEY ("former_blob_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;
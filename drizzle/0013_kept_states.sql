CREATE TABLE "kept_state" (
	"id" text PRIMARY KEY NOT NULL,
	"material_id" text NOT NULL,
	"revision" integer NOT NULL,
	"model_id" text NOT NULL,
	"camera" jsonb NOT NULL,
	"name" text NOT NULL,
	"note" text NOT NULL,
	"about" text,
	"amount" real,
	"author_id" text NOT NULL,
	"picture_hash" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_model_id_model_id_fk" FOREIGN KEY ("model_id") REFERENCES "public"."model"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_author_id_user_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."user"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_picture_hash_blob_hash_fk" FOREIGN KEY ("picture_hash") REFERENCES "public"."blob"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_revision" FOREIGN KEY ("material_id","revision") REFERENCES "public"."revision"("material_id","number") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "kept_state_material" ON "kept_state" USING btree ("material_id","created_at");--> statement-breakpoint
CREATE INDEX "kept_state_picture" ON "kept_state" USING btree ("picture_hash");
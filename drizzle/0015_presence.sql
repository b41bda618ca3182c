CREATE TABLE "presence" (
	"material_id" text NOT NULL,
	"user_id" text NOT NULL,
	"revision" integer NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "presence_material_id_user_id_pk" PRIMARY KEY("material_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "presence_seen" ON "presence" USING btree ("seen_at");
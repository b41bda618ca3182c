CREATE COLLATION IF NOT EXISTS "en-u-kn-true" (provider = icu, locale = 'en-u-kn-true');--> statement-breakpoint
CREATE TABLE "material_set" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "material_set_member" (
	"set_id" text NOT NULL,
	"material_id" text NOT NULL,
	CONSTRAINT "material_set_member_set_id_material_id_pk" PRIMARY KEY("set_id","material_id")
);
--> statement-breakpoint
ALTER TABLE "material_set" ADD CONSTRAINT "material_set_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "material_set_member" ADD CONSTRAINT "material_set_member_set_id_material_set_id_fk" FOREIGN KEY ("set_id") REFERENCES "public"."material_set"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "material_set_member" ADD CONSTRAINT "material_set_member_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "material_set_name" ON "material_set" USING btree ("project_id","name");--> statement-breakpoint
CREATE INDEX "material_set_member_material" ON "material_set_member" USING btree ("material_id");
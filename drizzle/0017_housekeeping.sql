ALTER TABLE "kept_state" DROP CONSTRAINT "kept_state_revision";
--> statement-breakpoint
ALTER TABLE "image" ADD COLUMN "project_id" text;--> statement-breakpoint
ALTER TABLE "project" ADD COLUMN "quota_bytes" bigint;--> statement-breakpoint
ALTER TABLE "revision" ADD COLUMN "is_origin" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "image" ADD CONSTRAINT "image_project_id_project_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."project"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_state" ADD CONSTRAINT "kept_state_revision" FOREIGN KEY ("material_id","revision") REFERENCES "public"."revision"("material_id","number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "revision" SET "is_origin" = true FROM (
	SELECT DISTINCT o ->> 'materialId' AS material_id, (o ->> 'revision')::int AS number
	FROM "revision", jsonb_path_query("document", '$.groups.*.origin') o
) n WHERE "revision"."material_id" = n.material_id AND "revision"."number" = n.number;

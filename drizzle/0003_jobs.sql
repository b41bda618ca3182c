CREATE TABLE "job" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"title" text NOT NULL,
	"user_id" text,
	"key" text,
	"request" jsonb NOT NULL,
	"state" text NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"step" text DEFAULT '' NOT NULL,
	"reason" jsonb,
	"result" jsonb,
	"tries" integer DEFAULT 0 NOT NULL,
	"worker_id" text,
	"queue_id" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"started_at" timestamp with time zone,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempt" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"account" text NOT NULL,
	"address" text NOT NULL,
	"is_known" boolean NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "worker" (
	"id" text PRIMARY KEY NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "job_user" ON "job" USING btree ("user_id","created_at");--> statement-breakpoint
CREATE INDEX "job_state" ON "job" USING btree ("state");--> statement-breakpoint
CREATE UNIQUE INDEX "job_waiting" ON "job" USING btree ("kind","key") WHERE "job"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "sign_in_attempt_account" ON "sign_in_attempt" USING btree ("account","at");--> statement-breakpoint
CREATE INDEX "sign_in_attempt_address" ON "sign_in_attempt" USING btree ("address","at");--> statement-breakpoint
CREATE FUNCTION "tell_job"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	PERFORM pg_notify('job', json_build_object('id', NEW.id, 'userId', NEW.user_id, 'state', NEW.state)::text);
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER "job_told" AFTER INSERT OR UPDATE ON "job" FOR EACH ROW EXECUTE FUNCTION "tell_job"();

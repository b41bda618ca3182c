INSERT INTO "job" ("id", "kind", "title", "user_id", "request", "state", "progress", "reason", "result", "created_at", "ended_at")
SELECT
	"id", 'publication', 'Publishing ' || coalesce("request"->>'name', '') || ' ' || coalesce("request"->>'version', ''), "user_id", "request",
	CASE "state" WHEN 'published' THEN 'done' WHEN 'refused' THEN 'refused' ELSE 'failed' END,
	CASE "state" WHEN 'published' THEN 1 ELSE 0 END,
	CASE "state"
		WHEN 'published' THEN NULL
		WHEN 'refused' THEN json_build_object('code', 'publish.refused', 'message', "message", 'kept', '', 'action', '')::jsonb
		ELSE json_build_object('code', 'job.interrupted', 'message', 'The studio was updated before this was done.', 'kept', 'Nothing was published.', 'action', 'Publish it again.')::jsonb
	END,
	CASE "state" WHEN 'published' THEN json_build_object('entryId', "entry_id", 'proof', "proof")::jsonb ELSE NULL END,
	"created_at", "created_at"
FROM "publication";
--> statement-breakpoint
DROP TABLE "publication";

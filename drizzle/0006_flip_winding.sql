-- What turns all triangles of a model round is called by the trade's name.
UPDATE "model" SET "preparation" = ("preparation" - 'turnRound') || '{"flipWinding": true}'::jsonb WHERE "preparation" ? 'turnRound';

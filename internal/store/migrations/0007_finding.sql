-- +goose Up
ALTER TABLE batches ADD COLUMN IF NOT EXISTS name VARCHAR(200) AS (COALESCE(JSON_VALUE(request, '$.name'), '')) PERSISTENT;
ALTER TABLE batches ADD COLUMN IF NOT EXISTS made_on VARCHAR(10) AS (COALESCE(JSON_VALUE(request, '$.made_on'), '')) PERSISTENT;
ALTER TABLE batches ADD COLUMN IF NOT EXISTS shape VARCHAR(80) AS (COALESCE(JSON_VALUE(`row`, '$.shape'), '')) PERSISTENT;
ALTER TABLE batches ADD COLUMN IF NOT EXISTS found TEXT AS (LOWER(CONCAT_WS(' ', JSON_VALUE(request, '$.name'), JSON_VALUE(`row`, '$.shape'),
  JSON_VALUE(`row`, '$.flours'), JSON_VALUE(request, '$.roll.machine'), JSON_VALUE(request, '$.roll.own_machine.name')))) PERSISTENT;
ALTER TABLE batches ADD INDEX IF NOT EXISTS batches_name (deleted_at, name, id);
ALTER TABLE batches ADD INDEX IF NOT EXISTS batches_made (deleted_at, made_on, id);
ALTER TABLE batches ADD INDEX IF NOT EXISTS batches_shape (deleted_at, shape, updated_at);
ALTER TABLE batches ADD FULLTEXT INDEX IF NOT EXISTS batches_found (found);

-- +goose Down
ALTER TABLE batches DROP INDEX IF EXISTS batches_found;
ALTER TABLE batches DROP INDEX IF EXISTS batches_shape;
ALTER TABLE batches DROP INDEX IF EXISTS batches_made;
ALTER TABLE batches DROP INDEX IF EXISTS batches_name;
ALTER TABLE batches DROP COLUMN IF EXISTS found;
ALTER TABLE batches DROP COLUMN IF EXISTS shape;
ALTER TABLE batches DROP COLUMN IF EXISTS made_on;
ALTER TABLE batches DROP COLUMN IF EXISTS name;

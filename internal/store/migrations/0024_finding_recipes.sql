-- +goose Up
ALTER TABLE recipes ADD COLUMN IF NOT EXISTS shape VARCHAR(80) AS (COALESCE(JSON_VALUE(`row`, '$.shape'), '')) PERSISTENT;
ALTER TABLE recipes ADD COLUMN IF NOT EXISTS place VARCHAR(20) AS (COALESCE(JSON_VALUE(request, '$.keep.where'), '')) PERSISTENT;
ALTER TABLE recipes ADD COLUMN IF NOT EXISTS dried VARCHAR(8) AS (COALESCE(JSON_VALUE(request, '$.dry.keep'), '')) PERSISTENT;
ALTER TABLE recipes ADD COLUMN IF NOT EXISTS found TEXT AS (LOWER(CONCAT_WS(' ', name, JSON_VALUE(`row`, '$.shape'),
  REPLACE(REPLACE(REPLACE(COALESCE(JSON_EXTRACT(besides, '$.other_names'), ''), '"', ' '), '[', ' '), ']', ' ')))) PERSISTENT;
ALTER TABLE recipes ADD INDEX IF NOT EXISTS recipes_shape (retired_at, shape, id);
ALTER TABLE recipes ADD FULLTEXT INDEX IF NOT EXISTS recipes_found (found);

-- +goose Down
ALTER TABLE recipes DROP INDEX IF EXISTS recipes_found;
ALTER TABLE recipes DROP INDEX IF EXISTS recipes_shape;
ALTER TABLE recipes DROP COLUMN IF EXISTS found;
ALTER TABLE recipes DROP COLUMN IF EXISTS dried;
ALTER TABLE recipes DROP COLUMN IF EXISTS place;
ALTER TABLE recipes DROP COLUMN IF EXISTS shape;

-- +goose Up
ALTER TABLE recipes ADD INDEX IF NOT EXISTS recipes_touched (updated_at);

-- +goose Down
ALTER TABLE recipes DROP INDEX IF EXISTS recipes_touched;

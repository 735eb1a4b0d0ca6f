-- +goose Up
ALTER TABLE batches ADD COLUMN IF NOT EXISTS took JSON NULL;

-- +goose Down
ALTER TABLE batches DROP COLUMN IF EXISTS took;

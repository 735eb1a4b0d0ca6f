-- +goose Up
ALTER TABLE cabinet ADD COLUMN version INT UNSIGNED NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE cabinet DROP COLUMN version;

-- +goose Up
ALTER TABLE recipes ADD COLUMN IF NOT EXISTS partner_id BIGINT UNSIGNED NULL;

-- +goose Down
ALTER TABLE recipes DROP COLUMN IF EXISTS partner_id;

-- +goose Up
ALTER TABLE orders ADD INDEX IF NOT EXISTS orders_taken (who(40), what(40), day);

-- +goose Down
ALTER TABLE orders DROP INDEX IF EXISTS orders_taken;

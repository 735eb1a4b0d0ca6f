-- +goose Up
CREATE TABLE IF NOT EXISTS log_settings (
  id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  version INT NOT NULL,
  doc JSON NOT NULL
);

-- +goose Down
DROP TABLE IF EXISTS log_settings;

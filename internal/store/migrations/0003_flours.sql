-- +goose Up
CREATE TABLE IF NOT EXISTS flours (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

-- +goose Down
DROP TABLE IF EXISTS flours;

-- +goose Up
CREATE TABLE IF NOT EXISTS rooms (
  id     BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name   VARCHAR(60) NOT NULL,
  temp_c DOUBLE NOT NULL,
  rh     DOUBLE NOT NULL,
  UNIQUE KEY rooms_name (name)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

-- +goose Down
DROP TABLE IF EXISTS rooms;

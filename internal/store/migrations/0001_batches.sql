-- +goose Up
CREATE TABLE IF NOT EXISTS workshops (
  id         INT UNSIGNED NOT NULL PRIMARY KEY,
  name       VARCHAR(120) NOT NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS batches (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  version    INT UNSIGNED NOT NULL,
  request    JSON NOT NULL,
  created_at DATETIME(3) NOT NULL,
  updated_at DATETIME(3) NOT NULL,
  deleted_at DATETIME(3) NULL,
  KEY batches_list (deleted_at, updated_at)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS revisions (
  batch_id   BIGINT UNSIGNED NOT NULL,
  version    INT UNSIGNED NOT NULL,
  request    JSON NOT NULL,
  saved_at   DATETIME(3) NOT NULL,
  PRIMARY KEY (batch_id, version),
  CONSTRAINT revisions_batch FOREIGN KEY (batch_id) REFERENCES batches (id) ON DELETE CASCADE
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

-- +goose Down
DROP TABLE IF EXISTS revisions;
DROP TABLE IF EXISTS batches;
DROP TABLE IF EXISTS workshops;

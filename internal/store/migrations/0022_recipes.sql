-- +goose Up
CREATE TABLE IF NOT EXISTS recipes (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  version    INT UNSIGNED NOT NULL,
  name       VARCHAR(200) NOT NULL,
  request    JSON NOT NULL,
  `row`      JSON NULL,
  besides    JSON NOT NULL,
  created_at DATETIME(3) NOT NULL,
  updated_at DATETIME(3) NOT NULL,
  retired_at DATETIME(3) NULL,
  once       VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL,
  UNIQUE KEY recipes_once (once),
  KEY recipes_name (retired_at, name),
  KEY recipes_list (retired_at, updated_at)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
CREATE TABLE IF NOT EXISTS recipe_versions (
  recipe_id BIGINT UNSIGNED NOT NULL,
  version   INT UNSIGNED NOT NULL,
  request   JSON NOT NULL,
  besides   JSON NOT NULL,
  saved_at  DATETIME(3) NOT NULL,
  saved_by  VARCHAR(120) NOT NULL DEFAULT '',
  PRIMARY KEY (recipe_id, version)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
ALTER TABLE batches ADD COLUMN IF NOT EXISTS recipe_id BIGINT UNSIGNED NULL;
ALTER TABLE batches ADD COLUMN IF NOT EXISTS recipe_version INT UNSIGNED NULL;
ALTER TABLE batches ADD INDEX IF NOT EXISTS batches_recipe (recipe_id);

-- +goose Down
ALTER TABLE batches DROP INDEX IF EXISTS batches_recipe;
ALTER TABLE batches DROP COLUMN IF EXISTS recipe_version;
ALTER TABLE batches DROP COLUMN IF EXISTS recipe_id;
DROP TABLE IF EXISTS recipe_versions;
DROP TABLE IF EXISTS recipes;

-- +goose Up
CREATE TABLE IF NOT EXISTS cabinet (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  kind       VARCHAR(16) NOT NULL,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL,
  KEY cabinet_kind (kind, id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
-- Empty where an earlier try has carried them over.
CREATE TABLE IF NOT EXISTS flours (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
INSERT IGNORE INTO cabinet (id, kind, figures, retired_at) SELECT id, 'flour', figures, retired_at FROM flours;
DROP TABLE IF EXISTS flours;

ALTER TABLE workshops ADD COLUMN IF NOT EXISTS house JSON NULL;

ALTER TABLE batches ADD COLUMN IF NOT EXISTS partner_id BIGINT UNSIGNED NULL;

-- +goose Down
ALTER TABLE batches DROP COLUMN IF EXISTS partner_id;
ALTER TABLE workshops DROP COLUMN IF EXISTS house;
CREATE TABLE IF NOT EXISTS flours (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
INSERT IGNORE INTO flours (id, figures, retired_at) SELECT id, figures, retired_at FROM cabinet WHERE kind = 'flour';
DROP TABLE IF EXISTS cabinet;

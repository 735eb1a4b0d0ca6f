-- +goose Up
CREATE TABLE cabinet (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  kind       VARCHAR(16) NOT NULL,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL,
  KEY cabinet_kind (kind, id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
INSERT INTO cabinet (id, kind, figures, retired_at) SELECT id, 'flour', figures, retired_at FROM flours;
DROP TABLE flours;

ALTER TABLE workshops ADD COLUMN house JSON NULL;

ALTER TABLE batches ADD COLUMN partner_id BIGINT UNSIGNED NULL;

-- +goose Down
ALTER TABLE batches DROP COLUMN partner_id;
ALTER TABLE workshops DROP COLUMN house;
CREATE TABLE flours (
  id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  figures    JSON NOT NULL,
  retired_at DATETIME(3) NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
INSERT INTO flours (id, figures, retired_at) SELECT id, figures, retired_at FROM cabinet WHERE kind = 'flour';
DROP TABLE cabinet;

-- +goose Up
CREATE TABLE IF NOT EXISTS making_pictures (
  making_id BIGINT UNSIGNED NOT NULL,
  n INT NOT NULL,
  kept DATETIME(3) NOT NULL,
  jpeg MEDIUMBLOB NOT NULL,
  PRIMARY KEY (making_id, n)
);

-- +goose Down
DROP TABLE IF EXISTS making_pictures;

-- +goose Up
CREATE TABLE IF NOT EXISTS sign_counts (
  who   CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  n     INT NOT NULL,
  until DATETIME(3) NOT NULL,
  KEY sign_counts_until (until)
);
CREATE TABLE IF NOT EXISTS sign_devices (
  account_id BIGINT UNSIGNED NOT NULL,
  token      CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  seen       DATETIME(3) NOT NULL,
  PRIMARY KEY (account_id, token),
  KEY sign_devices_seen (seen)
);
DROP TABLE IF EXISTS sign_tries;

-- +goose Down
CREATE TABLE IF NOT EXISTS sign_tries (
  id  BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  who CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at  DATETIME(3) NOT NULL,
  KEY sign_tries_who (who, at),
  KEY sign_tries_at (at)
);
DROP TABLE IF EXISTS sign_devices;
DROP TABLE IF EXISTS sign_counts;

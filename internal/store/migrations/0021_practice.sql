-- +goose Up
CREATE TABLE IF NOT EXISTS practice_rounds (
  id       BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  who      VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  form     VARCHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  level    TINYINT NOT NULL,
  seed     BIGINT UNSIGNED NOT NULL,
  looking  TINYINT(1) NOT NULL DEFAULT 0,
  at_once  TINYINT(1) NOT NULL DEFAULT 0,
  batch_id BIGINT UNSIGNED NULL,
  name     VARCHAR(200) NOT NULL,
  request  JSON NOT NULL,
  rules    JSON NOT NULL,
  asked    JSON NOT NULL,
  acts     JSON NOT NULL,
  seq      INT NOT NULL DEFAULT 0,
  began    DATETIME(3) NOT NULL,
  ended    DATETIME(3) NULL,
  points   DOUBLE NULL,
  regret   DOUBLE NULL,
  KEY practice_rounds_who (who, began)
);
CREATE TABLE IF NOT EXISTS practice_calls (
  who  VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  a    DOUBLE NOT NULL,
  b    DOUBLE NOT NULL,
  n    INT NOT NULL,
  met  DATETIME(3) NOT NULL,
  PRIMARY KEY (who, name)
);

-- +goose Down
DROP TABLE IF EXISTS practice_calls;
DROP TABLE IF EXISTS practice_rounds;

-- +goose Up
CREATE TABLE IF NOT EXISTS makings (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  batch_id BIGINT UNSIGNED NOT NULL,
  batch_version INT NOT NULL,
  request JSON NOT NULL,
  rules JSON NOT NULL,
  units VARCHAR(10) NOT NULL,
  steps JSON NOT NULL,
  seq BIGINT UNSIGNED NOT NULL DEFAULT 0,
  began DATETIME(3) NOT NULL,
  ended DATETIME(3) NULL,
  INDEX makings_batch (batch_id, began),
  INDEX makings_open (ended, began)
);
CREATE TABLE IF NOT EXISTS making_events (
  making_id BIGINT UNSIGNED NOT NULL,
  seq BIGINT UNSIGNED NOT NULL,
  id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  arrived DATETIME(3) NOT NULL,
  doc JSON NOT NULL,
  PRIMARY KEY (making_id, seq),
  UNIQUE KEY making_events_id (making_id, id)
);

-- +goose Down
DROP TABLE IF EXISTS making_events;
DROP TABLE IF EXISTS makings;

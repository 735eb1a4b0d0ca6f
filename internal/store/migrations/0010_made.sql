-- +goose Up
CREATE TABLE IF NOT EXISTS making_summaries (
  making_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  batch_id BIGINT UNSIGNED NOT NULL,
  version INT NOT NULL,
  seq BIGINT UNSIGNED NOT NULL,
  name VARCHAR(200) NOT NULL,
  felt TINYINT NULL,
  words TEXT NOT NULL,
  day DATE NOT NULL,
  shape VARCHAR(80) NOT NULL,
  in_g DOUBLE NOT NULL,
  out_g DOUBLE NOT NULL,
  trim_g DOUBLE NOT NULL,
  hands_min DOUBLE NOT NULL,
  cost DOUBLE NOT NULL,
  began DATETIME(3) NOT NULL,
  ended DATETIME(3) NOT NULL,
  doc JSON NOT NULL,
  INDEX summaries_batch (batch_id, began),
  INDEX summaries_began (began, making_id),
  INDEX summaries_felt (felt, began),
  INDEX summaries_name (name, began),
  INDEX summaries_day (day),
  FULLTEXT INDEX summaries_words (words)
);
CREATE TABLE IF NOT EXISTS room_means (
  device VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME NOT NULL,
  t_c DOUBLE NOT NULL,
  rh DOUBLE NOT NULL,
  n INT NOT NULL,
  PRIMARY KEY (device, at),
  INDEX room_means_at (at)
);

-- +goose Down
DROP TABLE IF EXISTS room_means;
DROP TABLE IF EXISTS making_summaries;

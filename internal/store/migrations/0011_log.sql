-- +goose Up
CREATE TABLE IF NOT EXISTS log_settings (
  id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  version INT NOT NULL,
  doc JSON NOT NULL
);
CREATE TABLE IF NOT EXISTS made_days (
  day DATE NOT NULL,
  shape VARCHAR(80) NOT NULL,
  n INT NOT NULL,
  weighed INT NOT NULL,
  in_g DOUBLE NOT NULL,
  out_g DOUBLE NOT NULL,
  trim_g DOUBLE NOT NULL,
  hands_min DOUBLE NOT NULL,
  hands_out_g DOUBLE NOT NULL,
  cost DOUBLE NOT NULL,
  PRIMARY KEY (day, shape)
);

-- +goose Down
DROP TABLE IF EXISTS made_days;
DROP TABLE IF EXISTS log_settings;

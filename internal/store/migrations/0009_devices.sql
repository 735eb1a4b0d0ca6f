-- +goose Up
CREATE TABLE IF NOT EXISTS devices (
  name VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  kind VARCHAR(10) NOT NULL,
  token CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made DATETIME(3) NOT NULL
);

-- +goose Down
DROP TABLE IF EXISTS devices;

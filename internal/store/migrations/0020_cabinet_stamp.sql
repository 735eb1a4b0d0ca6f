-- +goose Up
-- What tells whether the cabinet has changed is read from this index alone, however much the things weigh.
ALTER TABLE cabinet ADD INDEX IF NOT EXISTS cabinet_stamp (version, retired_at);

-- +goose Down
ALTER TABLE cabinet DROP INDEX IF EXISTS cabinet_stamp;

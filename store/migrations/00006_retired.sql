-- +goose Up
-- A quad that flies no more: it is kept and shown apart, and no rule of another one looks at it.
ALTER TABLE quad ADD COLUMN retired BOOLEAN NOT NULL DEFAULT FALSE;

-- +goose Down
ALTER TABLE quad DROP COLUMN retired;

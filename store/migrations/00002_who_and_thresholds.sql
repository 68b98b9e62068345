-- +goose Up
-- Who saved a revision: until now there was one pilot, so it was the one who owns it.
ALTER TABLE revision ADD COLUMN who VARCHAR(80) NOT NULL DEFAULT '' AFTER why;
UPDATE revision JOIN pilot ON pilot.id = revision.pilot_id SET revision.who = pilot.name;
-- What a pilot wants of every quad, as JSON.
ALTER TABLE pilot ADD COLUMN wants LONGTEXT NOT NULL DEFAULT '{}';
ALTER TABLE pilot ADD COLUMN version BIGINT NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE pilot DROP COLUMN version;
ALTER TABLE pilot DROP COLUMN wants;
ALTER TABLE revision DROP COLUMN who;

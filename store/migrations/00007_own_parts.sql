-- +goose Up
-- A pilot's own catalogue of parts, which any of his quads can be built of, and what he said that the columns of tables are, by their heads.
CREATE TABLE own_part (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  kind VARCHAR(20) NOT NULL,
  name VARCHAR(60) NOT NULL,
  body MEDIUMTEXT NOT NULL,
  changed_at DATETIME(3) NOT NULL,
  UNIQUE KEY own_part_name (pilot_id, kind, name),
  CONSTRAINT own_part_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

CREATE TABLE known_columns (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  purpose VARCHAR(40) NOT NULL,
  heads CHAR(64) NOT NULL,
  body TEXT NOT NULL,
  changed_at DATETIME(3) NOT NULL,
  UNIQUE KEY known_columns_heads (pilot_id, purpose, heads),
  CONSTRAINT known_columns_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- Counts the changes to his own parts, for who saw them before another window changed them.
ALTER TABLE pilot ADD COLUMN parts_version BIGINT NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE pilot DROP COLUMN parts_version;
DROP TABLE known_columns;
DROP TABLE own_part;

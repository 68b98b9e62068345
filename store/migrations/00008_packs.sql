-- +goose Up
-- Packs belong to the pilot: what is printed on each, and what was measured of it. A quad's parts hold a copy under the pack's name.
CREATE TABLE pack (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  name VARCHAR(60) NOT NULL,
  body TEXT NOT NULL,
  changed_at DATETIME(3) NOT NULL,
  UNIQUE KEY pack_name (pilot_id, name),
  CONSTRAINT pack_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- Rows that are only ever added; one that was a mistake is withdrawn and stays.
CREATE TABLE pack_reading (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  pack_id BIGINT NOT NULL,
  body TEXT NOT NULL,
  at DATETIME(3) NOT NULL,
  withdrawn VARCHAR(200) NOT NULL DEFAULT '',
  KEY pack_reading_newest (pack_id, id),
  CONSTRAINT pack_reading_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id),
  CONSTRAINT pack_reading_pack FOREIGN KEY (pack_id) REFERENCES pack (id) ON DELETE CASCADE
) ENGINE=InnoDB CHARACTER SET utf8mb4;

-- Counts the changes to his packs, for who saw them before another window changed them.
ALTER TABLE pilot ADD COLUMN packs_version BIGINT NOT NULL DEFAULT 0;

-- Until now a pack stood on quads alone. Of several quads with one of a name the oldest says what it is.
INSERT IGNORE INTO pack (pilot_id, name, body, changed_at)
SELECT quad.pilot_id, named.name, JSON_EXTRACT(revision.body, CONCAT('$.parts.packs.', JSON_QUOTE(named.name))), revision.created_at
FROM quad
JOIN revision ON revision.quad_id = quad.id AND revision.number = quad.head
JOIN JSON_TABLE(JSON_KEYS(revision.body, '$.parts.packs'), '$[*]' COLUMNS (name VARCHAR(60) PATH '$')) AS named
WHERE named.name <> ''
ORDER BY quad.id;

-- +goose Down
ALTER TABLE pilot DROP COLUMN packs_version;
DROP TABLE pack_reading;
DROP TABLE pack;

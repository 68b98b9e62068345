-- +goose Up
CREATE TABLE pilot (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  created_at DATETIME(3) NOT NULL
) ENGINE=InnoDB CHARACTER SET utf8mb4;

CREATE TABLE quad (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  name VARCHAR(80) NOT NULL,
  words VARCHAR(200) NOT NULL,
  head INT NOT NULL,
  edits LONGTEXT NOT NULL,
  undone LONGTEXT NOT NULL,
  version BIGINT NOT NULL,
  created_at DATETIME(3) NOT NULL,
  UNIQUE KEY quad_name (pilot_id, name),
  CONSTRAINT quad_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4;

CREATE TABLE revision (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  quad_id BIGINT NOT NULL,
  number INT NOT NULL,
  body LONGTEXT NOT NULL,
  hash CHAR(64) NOT NULL,
  why VARCHAR(200) NOT NULL,
  created_at DATETIME(3) NOT NULL,
  UNIQUE KEY revision_number (quad_id, number),
  CONSTRAINT revision_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id),
  CONSTRAINT revision_quad FOREIGN KEY (quad_id) REFERENCES quad (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4;

-- Rows that are only ever added: readings, read-backs, signatures, events, releases, flights, backups.
CREATE TABLE entry (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  quad_id BIGINT NOT NULL,
  kind VARCHAR(20) NOT NULL,
  name VARCHAR(190) NOT NULL,
  body LONGTEXT NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY entry_newest (quad_id, kind, name, id),
  CONSTRAINT entry_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id),
  CONSTRAINT entry_quad FOREIGN KEY (quad_id) REFERENCES quad (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4;

CREATE TABLE lease (
  device VARCHAR(120) PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  owner CHAR(32) NOT NULL,
  until DATETIME(3) NOT NULL,
  CONSTRAINT lease_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4;

-- +goose Down
DROP TABLE lease;
DROP TABLE entry;
DROP TABLE revision;
DROP TABLE quad;
DROP TABLE pilot;

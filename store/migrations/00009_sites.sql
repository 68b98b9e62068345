-- +goose Up
-- Places where a pilot flies, in metres about home: no coordinates on the earth are kept.
CREATE TABLE site (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  name VARCHAR(40) NOT NULL,
  version BIGINT NOT NULL DEFAULT 1,
  body MEDIUMTEXT NOT NULL,
  changed_at DATETIME(3) NOT NULL,
  UNIQUE KEY site_name (pilot_id, name),
  CONSTRAINT site_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE site;

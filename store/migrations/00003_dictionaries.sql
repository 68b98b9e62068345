-- +goose Up
-- Dictionaries that a pilot taught for firmware lines that the product does not know, as files.
CREATE TABLE dictionary (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  pilot_id BIGINT NOT NULL,
  line VARCHAR(16) NOT NULL,
  body LONGTEXT NOT NULL,
  version BIGINT NOT NULL,
  changed_at DATETIME(3) NOT NULL,
  UNIQUE KEY dictionary_line (pilot_id, line),
  CONSTRAINT dictionary_pilot FOREIGN KEY (pilot_id) REFERENCES pilot (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE dictionary;

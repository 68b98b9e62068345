-- +goose Up
-- The mark of the board that is a quad's own: until now it stood in the read-back and in what was identified alone.
INSERT INTO entry (pilot_id, quad_id, kind, name, body, at)
SELECT e.pilot_id, e.quad_id, 'mark', 'board',
  JSON_OBJECT('target', COALESCE(JSON_VALUE(e.body, '$.target'), JSON_VALUE(e.body, '$.value.target'), ''),
    'serial', COALESCE(JSON_VALUE(e.body, '$.serial'), JSON_VALUE(e.body, '$.value.serial'))),
  e.at
FROM entry e
WHERE e.id IN (
  SELECT MAX(n.id) FROM entry n
  WHERE (n.kind = 'board' AND COALESCE(JSON_VALUE(n.body, '$.serial'), '') <> '')
    OR (n.kind = 'reading' AND n.name = 'readings.firmware.identity' AND COALESCE(JSON_VALUE(n.body, '$.value.serial'), '') <> '')
  GROUP BY n.quad_id);

-- +goose Down
DELETE FROM entry WHERE kind = 'mark';

-- +goose Up
-- What stands on a quad's cover, so that nobody has to count its entries to know it: the number of its newest one, and how often it flew.
ALTER TABLE quad ADD COLUMN last BIGINT NOT NULL DEFAULT 0;
ALTER TABLE quad ADD COLUMN flights INT NOT NULL DEFAULT 0;
UPDATE quad SET
  last = COALESCE((SELECT MAX(entry.id) FROM entry WHERE entry.quad_id = quad.id), 0),
  flights = (SELECT COUNT(*) FROM entry WHERE entry.quad_id = quad.id AND entry.kind = 'flight');
-- The entries of a kind in the order they were made, page by page.
ALTER TABLE entry ADD KEY entry_page (quad_id, kind, id);

-- +goose Down
ALTER TABLE entry DROP KEY entry_page;
ALTER TABLE quad DROP COLUMN flights;
ALTER TABLE quad DROP COLUMN last;

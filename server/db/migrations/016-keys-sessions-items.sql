-- What was sent under a key, as a hash: the same key for something else is refused. Empty where it was kept before this.
ALTER TABLE submission ADD COLUMN sent TEXT NOT NULL DEFAULT '';

-- A supplier's terms, days and holidays matter to what is bought from it, and to nothing else.
DROP TRIGGER touch_supplier;
CREATE TRIGGER touch_supplier AFTER UPDATE ON supplier BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, 0, 0 FROM sourcing WHERE supplier = new.id ON CONFLICT DO UPDATE SET n = 0;
END;

-- A session that nobody used for long ends.
ALTER TABLE session ADD COLUMN seen TEXT NOT NULL DEFAULT '';
UPDATE session SET seen = started;

-- A hundred thousand items by category, of which a page shows some.
CREATE INDEX item_by_category ON item (category, name, id) WHERE active = 1;

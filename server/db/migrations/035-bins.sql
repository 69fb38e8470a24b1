-- Stores have bins. What was counted in lies on the dock, the bin without a name, until it is stowed.
CREATE TABLE store_bin (
  store INTEGER NOT NULL REFERENCES store (id),
  code TEXT NOT NULL COLLATE NOCASE CHECK (code <> ''),
  walk INTEGER CHECK (walk BETWEEN 1 AND 1000000), -- its place on the walk; null: by its name, after those that have one
  note TEXT NOT NULL DEFAULT '',
  closed TEXT NOT NULL DEFAULT '', -- why nothing more is put there
  PRIMARY KEY (store, code)
) STRICT, WITHOUT ROWID;
INSERT OR IGNORE INTO store_bin (store, code) SELECT store, bin FROM item_store WHERE bin <> '' ORDER BY item;
INSERT OR IGNORE INTO store_bin (store, code) SELECT store, bin FROM stock_balance WHERE bin <> '' ORDER BY item;
INSERT OR IGNORE INTO store_bin (store, code) SELECT store, bin FROM order_line WHERE bin <> '' ORDER BY id;

-- What moves goods within a store, out of it, or back: a paper of its own, with a reason.
CREATE TABLE stock_paper (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL, -- core/stock/paper.ts
  store INTEGER NOT NULL REFERENCES store (id),
  job INTEGER REFERENCES job (id),
  reason TEXT NOT NULL,
  day TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX stock_paper_of_store ON stock_paper (store, id);
CREATE INDEX stock_paper_of_job ON stock_paper (job) WHERE job IS NOT NULL;
CREATE TRIGGER stock_paper_kept BEFORE DELETE ON stock_paper BEGIN SELECT raise(ABORT, 'papers of the stock are never deleted'); END;
CREATE TRIGGER stock_paper_stays BEFORE UPDATE ON stock_paper BEGIN SELECT raise(ABORT, 'papers of the stock are never changed'); END;

ALTER TABLE movement ADD COLUMN paper INTEGER REFERENCES stock_paper (id);
CREATE INDEX movement_of_paper ON movement (paper) WHERE paper IS NOT NULL;
CREATE INDEX movement_of_job ON movement (job, item) WHERE job IS NOT NULL;
CREATE INDEX stock_balance_of_bin ON stock_balance (store, bin, item) WHERE quantity <> 0;

-- What lay in a store before bins were kept lies in its item's own bin.
CREATE TEMP TABLE lay AS
SELECT b.item, b.store, s.code AS bin, b.lot, b.quantity, (SELECT max(at) FROM movement) AS at FROM stock_balance b
JOIN item_store p ON p.item = b.item AND p.store = b.store JOIN store_bin s ON s.store = p.store AND s.code = p.bin
WHERE b.bin = '' AND b.owner = 0 AND b.quantity > 0;
INSERT INTO movement (item, store, bin, lot, day, kind, quantity, note, at)
SELECT item, store, '', nullif(lot, 0), substr(at, 1, 10), 'stow', -quantity, 'lay there before bins were kept', at FROM lay;
INSERT INTO movement (item, store, bin, lot, day, kind, quantity, note, at)
SELECT item, store, bin, nullif(lot, 0), substr(at, 1, 10), 'stow', quantity, 'lay there before bins were kept', at FROM lay;
DROP TABLE lay;

-- A bin that an item or an order names is there. (OR IGNORE would not hold where an upsert sets it off.)
CREATE TRIGGER bin_of_item AFTER INSERT ON item_store WHEN new.bin <> '' BEGIN
  INSERT INTO store_bin (store, code) SELECT new.store, new.bin WHERE NOT EXISTS (SELECT 1 FROM store_bin WHERE store = new.store AND code = new.bin);
END;
CREATE TRIGGER bin_of_item_changed AFTER UPDATE OF bin ON item_store WHEN new.bin <> '' BEGIN
  INSERT INTO store_bin (store, code) SELECT new.store, new.bin WHERE NOT EXISTS (SELECT 1 FROM store_bin WHERE store = new.store AND code = new.bin);
END;
CREATE TRIGGER bin_of_line AFTER INSERT ON order_line WHEN new.bin <> '' BEGIN
  INSERT INTO store_bin (store, code) SELECT new.store, new.bin WHERE NOT EXISTS (SELECT 1 FROM store_bin WHERE store = new.store AND code = new.bin);
END;
CREATE TRIGGER bin_of_line_changed AFTER UPDATE OF bin ON order_line WHEN new.bin <> '' BEGIN
  INSERT INTO store_bin (store, code) SELECT new.store, new.bin WHERE NOT EXISTS (SELECT 1 FROM store_bin WHERE store = new.store AND code = new.bin);
END;

-- Is what was counted in stowed by a list, or does it lie in its bin at once?
ALTER TABLE store ADD COLUMN stows INTEGER NOT NULL DEFAULT 1 CHECK (stows IN (0, 1));

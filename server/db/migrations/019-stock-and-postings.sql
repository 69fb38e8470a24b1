-- Movements say whose goods they are, what they are worth and what they take back; what lies where is kept from them, and what
-- they are worth stands in an insert-only double entry.
DROP TRIGGER movement_kept;
DROP TRIGGER movement_stays;
DROP TRIGGER movement_of_lot;
DROP TRIGGER touch_movement;

CREATE TABLE movement_new (
  id INTEGER PRIMARY KEY,
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  bin TEXT NOT NULL DEFAULT '',
  lot INTEGER REFERENCES lot (id),
  owner INTEGER REFERENCES supplier (id), -- null: ours
  day TEXT NOT NULL,
  kind TEXT NOT NULL, -- core/stock/movement.ts
  quantity INTEGER NOT NULL, -- stock units, signed
  value INTEGER NOT NULL DEFAULT 0, -- home currency, signed as the quantity is; what is not ours has none
  reverses INTEGER REFERENCES movement_new (id),
  -- Where it comes from.
  entry INTEGER REFERENCES posting_entry (id),
  receipt_line INTEGER REFERENCES receipt_line (id),
  transfer_line INTEGER REFERENCES transfer_line (id),
  job INTEGER REFERENCES job (id),
  note TEXT NOT NULL DEFAULT '',
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL,
  CHECK (owner IS NULL OR value = 0)
) STRICT;
INSERT INTO movement_new (id, item, store, bin, lot, day, kind, quantity, receipt_line, transfer_line, job, note, person, at)
SELECT id, item, store, bin, lot, day, kind, quantity, receipt_line, transfer_line, job, note, person, at FROM movement ORDER BY id;
DROP TABLE movement;
ALTER TABLE movement_new RENAME TO movement;
CREATE INDEX movement_by_item ON movement (item, store, day);
CREATE INDEX movement_by_receipt ON movement (receipt_line) WHERE receipt_line IS NOT NULL;
CREATE INDEX movement_use ON movement (item, store, day, quantity) WHERE kind = 'issue';
CREATE INDEX movement_of_entry ON movement (entry) WHERE entry IS NOT NULL;

CREATE TABLE stock_balance (
  item INTEGER NOT NULL,
  store INTEGER NOT NULL,
  bin TEXT NOT NULL,
  lot INTEGER NOT NULL, -- 0: none
  owner INTEGER NOT NULL, -- 0: ours
  quantity INTEGER NOT NULL CHECK (quantity >= 0 OR lot = 0),
  PRIMARY KEY (item, store, bin, lot, owner)
) STRICT, WITHOUT ROWID;
INSERT INTO stock_balance SELECT item, store, bin, coalesce(lot, 0), 0, sum(quantity) FROM movement GROUP BY item, store, bin, coalesce(lot, 0);
CREATE INDEX stock_balance_of_lot ON stock_balance (lot) WHERE lot > 0;
DROP TABLE stock_lot;
-- What lies in lots, whosever it is.
CREATE VIEW stock_lot AS SELECT item, store, bin, lot, owner, quantity AS on_hand FROM stock_balance WHERE lot > 0;

-- On hand and its value are ours alone.
ALTER TABLE item_store ADD COLUMN value INTEGER NOT NULL DEFAULT 0;
ALTER TABLE company ADD COLUMN valued TEXT; -- since when stock has a value; null until a file of before is valued
ALTER TABLE receipt_line ADD COLUMN home_value INTEGER NOT NULL DEFAULT 0; -- with its share of the charges

CREATE TABLE posting_entry (
  id INTEGER PRIMARY KEY,
  day TEXT NOT NULL,
  kind TEXT NOT NULL, -- core/stock/posting.ts
  receipt INTEGER REFERENCES receipt (id),
  reverses INTEGER REFERENCES posting_entry (id),
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX posting_entry_of ON posting_entry (receipt) WHERE receipt IS NOT NULL;
CREATE TABLE posting (
  entry INTEGER NOT NULL REFERENCES posting_entry (id),
  position INTEGER NOT NULL,
  role TEXT NOT NULL, -- what the account is for
  account TEXT REFERENCES account (code), -- where a line names one
  minor INTEGER NOT NULL, -- home currency: debit above zero, credit below
  order_line INTEGER REFERENCES order_line (id),
  PRIMARY KEY (entry, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX posting_of_line ON posting (order_line, role) WHERE order_line IS NOT NULL;
CREATE INDEX posting_of_role ON posting (role, minor);

CREATE TRIGGER movement_kept BEFORE DELETE ON movement BEGIN SELECT raise(ABORT, 'movements are never deleted'); END;
CREATE TRIGGER movement_stays BEFORE UPDATE ON movement BEGIN SELECT raise(ABORT, 'movements are never changed'); END;
CREATE TRIGGER movement_moves AFTER INSERT ON movement BEGIN
  INSERT INTO stock_balance (item, store, bin, lot, owner, quantity) VALUES (new.item, new.store, new.bin, coalesce(new.lot, 0), coalesce(new.owner, 0), 0) ON CONFLICT DO NOTHING;
  UPDATE stock_balance SET quantity = quantity + new.quantity
  WHERE item = new.item AND store = new.store AND bin = new.bin AND lot = coalesce(new.lot, 0) AND owner = coalesce(new.owner, 0);
  UPDATE item_store SET on_hand = on_hand + new.quantity, value = value + new.value WHERE item = new.item AND store = new.store AND new.owner IS NULL;
  INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER entry_kept BEFORE DELETE ON posting_entry BEGIN SELECT raise(ABORT, 'postings are never deleted'); END;
CREATE TRIGGER entry_stays BEFORE UPDATE ON posting_entry BEGIN SELECT raise(ABORT, 'postings are never changed'); END;
CREATE TRIGGER posting_kept BEFORE DELETE ON posting BEGIN SELECT raise(ABORT, 'postings are never deleted'); END;
CREATE TRIGGER posting_stays BEFORE UPDATE ON posting BEGIN SELECT raise(ABORT, 'postings are never changed'); END;

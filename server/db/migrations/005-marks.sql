-- Marks: follow-up labels of the company's own on orders, put by hand or by an event.
CREATE TABLE mark (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  -- Put by itself when this happens to an order; null: by hand alone.
  event TEXT CHECK (event IN ('placed', 'confirmed', 'part in', 'overdue', 'date passed')),
  least INTEGER NOT NULL DEFAULT 0 CHECK (least >= 0), -- orders from this net on, home currency
  supplier INTEGER REFERENCES supplier (id), -- and to this supplier alone
  ended TEXT -- not put any more; what bears it keeps it
) STRICT;
CREATE TABLE order_mark (
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  mark INTEGER NOT NULL REFERENCES mark (id),
  at TEXT NOT NULL,
  person INTEGER REFERENCES person (id), -- null: by its rule
  note TEXT NOT NULL DEFAULT '',
  taken_off TEXT, -- an event does not put it again
  PRIMARY KEY (purchase_order, mark)
) STRICT, WITHOUT ROWID;
CREATE INDEX order_mark_on ON order_mark (mark, purchase_order) WHERE taken_off IS NULL;

CREATE INDEX order_line_awaited ON order_line (purchase_order) WHERE open = 1;
CREATE INDEX purchase_order_by_required ON purchase_order (required, id);
CREATE INDEX purchase_order_by_net ON purchase_order (home_net, id);

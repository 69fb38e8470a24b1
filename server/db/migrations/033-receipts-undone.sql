-- A receipt that is undone, whole or in part: both papers stay.
CREATE TABLE receipt_undo (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  receipt INTEGER NOT NULL REFERENCES receipt (id),
  day TEXT NOT NULL,
  reason TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX receipt_undo_of ON receipt_undo (receipt);

CREATE TABLE receipt_undo_line (
  id INTEGER PRIMARY KEY,
  receipt_undo INTEGER NOT NULL REFERENCES receipt_undo (id),
  receipt_line INTEGER NOT NULL REFERENCES receipt_line (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units
  stock_quantity INTEGER NOT NULL CHECK (stock_quantity >= 0),
  value INTEGER NOT NULL, -- order currency
  home_value INTEGER NOT NULL
) STRICT;
CREATE INDEX receipt_undo_line_of ON receipt_undo_line (receipt_line);
CREATE INDEX receipt_undo_line_by ON receipt_undo_line (receipt_undo);

-- Receipts are never changed: what is left of a line follows from what was undone.
CREATE VIEW receipt_line_now AS
SELECT x.id, x.receipt, x.order_line, x.lot, x.quantity, x.over, x.value, x.home_value,
       coalesce((SELECT sum(u.quantity) FROM receipt_undo_line u WHERE u.receipt_line = x.id), 0) AS undone,
       coalesce((SELECT sum(u.home_value) FROM receipt_undo_line u WHERE u.receipt_line = x.id), 0) AS home_undone
FROM receipt_line x;

CREATE TRIGGER receipt_undone_too_much BEFORE INSERT ON receipt_undo_line
WHEN new.quantity > (SELECT quantity - undone FROM receipt_line_now WHERE id = new.receipt_line) BEGIN
  SELECT raise(ABORT, 'more undone than was counted in');
END;
CREATE TRIGGER receipt_undo_line_kept BEFORE DELETE ON receipt_undo_line BEGIN SELECT raise(ABORT, 'what was undone is never deleted'); END;
CREATE TRIGGER receipt_undo_line_stays BEFORE UPDATE ON receipt_undo_line BEGIN SELECT raise(ABORT, 'what was undone is never changed'); END;

-- Counting what lies there: a list, counted blind or not, judged line by line, and booked as one paper of the stock.
CREATE TABLE stock_count (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  store INTEGER NOT NULL REFERENCES store (id),
  what TEXT NOT NULL, -- what is counted, in words
  blind INTEGER NOT NULL CHECK (blind IN (0, 1)),
  state TEXT NOT NULL, -- core/stock/stock-count.ts
  day TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  paper INTEGER REFERENCES stock_paper (id), -- by which its differences were booked
  judge INTEGER REFERENCES person (id),
  judged TEXT,
  version INTEGER NOT NULL DEFAULT 1
) STRICT;
CREATE INDEX stock_count_open ON stock_count (store) WHERE state IN ('Open', 'Counted');

CREATE TABLE stock_count_line (
  id INTEGER PRIMARY KEY,
  stock_count INTEGER NOT NULL REFERENCES stock_count (id),
  item INTEGER NOT NULL REFERENCES item (id),
  bin TEXT NOT NULL,
  lot INTEGER REFERENCES lot (id),
  found INTEGER NOT NULL DEFAULT 0 CHECK (found IN (0, 1)), -- it was not on the list
  expected INTEGER NOT NULL, -- what lay there when the list was made; stock units
  counted INTEGER CHECK (counted >= 0),
  lay INTEGER, -- what lay there by the books when it was counted
  person INTEGER REFERENCES person (id),
  at TEXT,
  verdict TEXT NOT NULL DEFAULT '', -- core/stock/stock-count.ts
  reason TEXT NOT NULL DEFAULT '',
  booked INTEGER, -- the difference that was booked
  CHECK ((counted IS NULL) = (lay IS NULL))
) STRICT;
CREATE UNIQUE INDEX stock_count_line_of ON stock_count_line (stock_count, item, bin, coalesce(lot, 0));
CREATE INDEX stock_count_line_lies ON stock_count_line (item, bin);

-- What suppliers announce before it comes: their despatch advices, one row for each order that one speaks of.
CREATE TABLE announced (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  number TEXT NOT NULL COLLATE NOCASE, -- theirs
  issued TEXT NOT NULL,
  arrives TEXT, -- the day, where they say it
  packages INTEGER,
  weight INTEGER, -- kilograms, ten-thousandths
  note TEXT NOT NULL DEFAULT '',
  receipt INTEGER REFERENCES receipt (id), -- with which it was counted in
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL,
  UNIQUE (purchase_order, number)
) STRICT;
CREATE INDEX announced_open ON announced (purchase_order) WHERE receipt IS NULL;

CREATE TABLE announced_line (
  id INTEGER PRIMARY KEY,
  announced INTEGER NOT NULL REFERENCES announced (id),
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units
  lot TEXT NOT NULL DEFAULT '', -- or serial number
  expires TEXT,
  weight INTEGER, -- net kilograms, ten-thousandths
  pallet TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX announced_line_of ON announced_line (announced);
CREATE INDEX announced_pallet ON announced_line (pallet) WHERE pallet <> '';
-- The same delivery note is asked about when it comes twice.
CREATE INDEX receipt_by_note ON receipt (delivery_note COLLATE NOCASE) WHERE delivery_note <> '';

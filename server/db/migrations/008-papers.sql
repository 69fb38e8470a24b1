-- How papers look, what is written on them and with them, and many at once.

CREATE TABLE logo (
  id INTEGER PRIMARY KEY,
  type TEXT NOT NULL CHECK (type IN ('image/png', 'image/jpeg')),
  bytes BLOB NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
-- Papers that left the house name the logo that they bore, so that they print again as they were.
CREATE TRIGGER logo_kept BEFORE DELETE ON logo BEGIN SELECT raise(ABORT, 'logos are only added'); END;
CREATE TRIGGER logo_same BEFORE UPDATE ON logo BEGIN SELECT raise(ABORT, 'logos are only added'); END;
ALTER TABLE company ADD COLUMN logo INTEGER REFERENCES logo (id);

-- The language in which a supplier is written to; empty: the company's.
ALTER TABLE supplier ADD COLUMN language TEXT NOT NULL DEFAULT '' CHECK (length(language) IN (0, 2));

CREATE TABLE paper_layout (
  kind TEXT PRIMARY KEY CHECK (kind IN ('one-off', 'blanket', 'call-off', 'direct')),
  columns TEXT NOT NULL, -- JSON, a list of names
  prices INTEGER NOT NULL CHECK (prices IN (0, 1))
) STRICT;

CREATE TABLE paper_text (
  kind TEXT NOT NULL CHECK (kind IN ('one-off', 'blanket', 'call-off', 'direct')),
  language TEXT NOT NULL CHECK (length(language) = 2),
  above TEXT NOT NULL,
  below TEXT NOT NULL,
  foot TEXT NOT NULL,
  subject TEXT NOT NULL,
  message TEXT NOT NULL,
  PRIMARY KEY (kind, language)
) STRICT, WITHOUT ROWID;

-- Many orders printed, sent or placed in one go: what is done is kept order by order, so that it goes on after a stop.
CREATE TABLE batch (
  id INTEGER PRIMARY KEY,
  what TEXT NOT NULL CHECK (what IN ('print', 'mail', 'place')),
  prices INTEGER NOT NULL DEFAULT 1 CHECK (prices IN (0, 1)),
  site TEXT NOT NULL DEFAULT '', -- where private links lead
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  stopped TEXT, -- by a person
  ended TEXT
) STRICT;
CREATE INDEX batch_open ON batch (id) WHERE ended IS NULL;
CREATE INDEX batch_of ON batch (person, id);
CREATE TABLE batch_order (
  batch INTEGER NOT NULL REFERENCES batch (id),
  position INTEGER NOT NULL,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  state TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'refused')),
  says TEXT NOT NULL DEFAULT '', -- to whom it went, or why not
  PRIMARY KEY (batch, position)
) STRICT, WITHOUT ROWID;

-- What is overdue of an order is found without looking at lines that are in; standing lists are few among many orders.
CREATE INDEX order_line_due ON order_line (purchase_order, promised, required) WHERE open = 1;
CREATE INDEX purchase_order_standing ON purchase_order (id) WHERE kind = 'standing';

-- Placing: what suppliers ask of an order as a whole, and the benches on which needs are laid out.

-- Money in the supplier's currency, goods net of tax.
ALTER TABLE supplier ADD COLUMN order_minimum INTEGER NOT NULL DEFAULT 0 CHECK (order_minimum >= 0);
ALTER TABLE supplier ADD COLUMN freight INTEGER NOT NULL DEFAULT 0 CHECK (freight >= 0); -- for each order
ALTER TABLE supplier ADD COLUMN freight_free_from INTEGER CHECK (freight_free_from > 0); -- goods of an order that is carried free
ALTER TABLE supplier ADD COLUMN blocked TEXT NOT NULL DEFAULT ''; -- why nothing may be ordered there

-- What a year of holding stock costs, in hundredths of a percent of its value.
ALTER TABLE company ADD COLUMN holding_rate INTEGER NOT NULL DEFAULT 1800 CHECK (holding_rate BETWEEN 0 AND 10000);

-- The freight that the supplier's rule comes to, kept with the order's totals but no part of them.
ALTER TABLE purchase_order ADD COLUMN freight INTEGER NOT NULL DEFAULT 0;
ALTER TABLE purchase_order ADD COLUMN home_freight INTEGER NOT NULL DEFAULT 0;

-- A need may now stand on several order lines, each covering a part of it: `wanted` is what the line was written for,
-- `quantity` what it covers as it stands.
DROP INDEX need_tie_once;
DROP INDEX need_tie_noted_once;
ALTER TABLE need_tie ADD COLUMN wanted INTEGER NOT NULL DEFAULT 0;
UPDATE need_tie SET wanted = quantity;
CREATE INDEX need_tie_by_requisition ON need_tie (requisition_line) WHERE requisition_line IS NOT NULL;
CREATE INDEX need_tie_by_noted ON need_tie (noted_need) WHERE noted_need IS NOT NULL;
CREATE TRIGGER touch_tie_changed AFTER UPDATE ON need_tie BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;

-- A need of a later day, noted now to fill an order up.
ALTER TABLE noted_need ADD COLUMN ahead INTEGER NOT NULL DEFAULT 0 CHECK (ahead IN (0, 1));

-- Needs laid out to be placed. A need lies on one bench at a time.
CREATE TABLE bench (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL COLLATE NOCASE,
  maker INTEGER NOT NULL REFERENCES person (id),
  made TEXT NOT NULL,
  run TEXT NOT NULL DEFAULT 'usual', -- the rule by which its needs are worked out
  as_of TEXT, -- the day they are to hold for; null: the day on which one looks
  version INTEGER NOT NULL DEFAULT 1, -- goes up with every change of anything on it
  cleared TEXT, -- when it was put away
  allow_split INTEGER NOT NULL DEFAULT 0 CHECK (allow_split IN (0, 1))
) STRICT;
CREATE UNIQUE INDEX bench_name ON bench (name) WHERE cleared IS NULL;
CREATE TABLE bench_row (
  bench INTEGER NOT NULL REFERENCES bench (id),
  need TEXT NOT NULL UNIQUE,
  position INTEGER NOT NULL,
  item INTEGER, -- as it was laid out, to say what is gone
  name TEXT NOT NULL,
  wanted INTEGER CHECK (wanted > 0), -- stock units; null: as much as the need says
  may_split INTEGER NOT NULL DEFAULT 0 CHECK (may_split IN (0, 1)),
  locked INTEGER NOT NULL DEFAULT 0 CHECK (locked IN (0, 1)),
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id), -- who chose last
  at TEXT NOT NULL,
  PRIMARY KEY (bench, need)
) STRICT, WITHOUT ROWID;
-- What is chosen for a row, and what was chosen before it.
CREATE TABLE bench_part (
  need TEXT NOT NULL REFERENCES bench_row (need) ON DELETE CASCADE,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  share INTEGER CHECK (share > 0), -- stock units of the row; null: all of it
  buy INTEGER CHECK (buy > 0), -- purchase units; null: the least that covers the share
  former INTEGER NOT NULL DEFAULT 0 CHECK (former IN (0, 1)),
  PRIMARY KEY (need, supplier, former)
) STRICT, WITHOUT ROWID;
-- The buyer says that lines for a supplier and store go onto a draft that stands already.
CREATE TABLE bench_join (
  bench INTEGER NOT NULL REFERENCES bench (id),
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  PRIMARY KEY (bench, purchase_order)
) STRICT, WITHOUT ROWID;

-- Prices that suppliers were asked for.
CREATE TABLE quote (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  bench INTEGER REFERENCES bench (id),
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  answer_by TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  ended TEXT
) STRICT;
CREATE TABLE quote_line (
  id INTEGER PRIMARY KEY,
  quote INTEGER NOT NULL REFERENCES quote (id),
  position INTEGER NOT NULL,
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  need TEXT, -- the need it was asked for
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- stock units
  needed_on TEXT NOT NULL,
  UNIQUE (quote, position)
) STRICT;
CREATE TABLE quote_asked (
  id INTEGER PRIMARY KEY,
  quote INTEGER NOT NULL REFERENCES quote (id),
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  link TEXT NOT NULL UNIQUE, -- SHA-256 of what the private link holds
  currency TEXT NOT NULL,
  opened TEXT, -- when the supplier first looked
  answered TEXT,
  conditions TEXT NOT NULL DEFAULT '',
  declined INTEGER NOT NULL DEFAULT 0 CHECK (declined IN (0, 1)),
  ended TEXT, -- the link does not open any more
  UNIQUE (quote, supplier)
) STRICT;
CREATE TABLE quote_answer (
  id INTEGER PRIMARY KEY,
  asked INTEGER NOT NULL REFERENCES quote_asked (id),
  line INTEGER NOT NULL REFERENCES quote_line (id),
  price INTEGER NOT NULL CHECK (price >= 0), -- millionths, for one unit as it was asked
  unit TEXT NOT NULL REFERENCES unit (code),
  factor INTEGER NOT NULL CHECK (factor > 0), -- stock units in it
  from_quantity INTEGER NOT NULL DEFAULT 0 CHECK (from_quantity >= 0), -- units from which it holds
  lead_days INTEGER CHECK (lead_days BETWEEN 0 AND 730),
  valid_from TEXT NOT NULL,
  valid_to TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT '',
  accepted TEXT,
  accepted_by INTEGER REFERENCES person (id),
  sourcing INTEGER REFERENCES sourcing (id), -- the record whose price it became
  CHECK (valid_from <= valid_to),
  CHECK ((accepted IS NULL) = (sourcing IS NULL)),
  UNIQUE (asked, line)
) STRICT;
CREATE INDEX quote_answer_price ON quote_answer (sourcing) WHERE sourcing IS NOT NULL;
CREATE TRIGGER touch_quote AFTER UPDATE OF accepted ON quote_answer BEGIN
  INSERT INTO plan_touch SELECT item, 0, 0 FROM quote_line WHERE id = new.line ON CONFLICT DO UPDATE SET n = 0;
END;
ALTER TABLE mail ADD COLUMN quote INTEGER REFERENCES quote (id);

-- Wharf Tally, first slice. Quantities are integers of ten-thousandths, prices of millionths, money of the currency's
-- minor unit, percentages of hundredths of a percent, days ISO text, moments ISO text in UTC.

CREATE TABLE company (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  name TEXT NOT NULL,
  address TEXT NOT NULL DEFAULT '',
  tax_number TEXT NOT NULL DEFAULT '',
  mail TEXT NOT NULL DEFAULT '',
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  locale TEXT NOT NULL DEFAULT 'en-GB',
  tax_rate INTEGER NOT NULL DEFAULT 2000 CHECK (tax_rate BETWEEN 0 AND 10000), -- for lines without an item
  count_on_order INTEGER NOT NULL DEFAULT 1 CHECK (count_on_order IN (0, 1))
) STRICT;

-- Home currency for one unit of a foreign one, in millionths, from that day on.
CREATE TABLE rate (
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  day TEXT NOT NULL,
  rate INTEGER NOT NULL CHECK (rate > 0),
  PRIMARY KEY (currency, day)
) STRICT, WITHOUT ROWID;

CREATE TABLE secret (name TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;

-- People ------------------------------------------------------------------------------------------------------------

CREATE TABLE store (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  address TEXT NOT NULL DEFAULT '',
  receives INTEGER NOT NULL DEFAULT 31 CHECK (receives BETWEEN 0 AND 127)
) STRICT;

CREATE TABLE person (
  id INTEGER PRIMARY KEY,
  login TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  title TEXT NOT NULL DEFAULT '',
  mail TEXT NOT NULL DEFAULT '',
  store INTEGER REFERENCES store (id),
  password TEXT,
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1))
) STRICT;

CREATE TABLE person_role (
  person INTEGER NOT NULL REFERENCES person (id),
  role TEXT NOT NULL CHECK (role IN ('requester', 'buyer', 'purchasing lead', 'approver', 'dock hand', 'accounts', 'administrator', 'auditor')),
  PRIMARY KEY (person, role)
) STRICT, WITHOUT ROWID;

CREATE TABLE team (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE) STRICT;
CREATE TABLE team_member (
  team INTEGER NOT NULL REFERENCES team (id),
  person INTEGER NOT NULL REFERENCES person (id),
  PRIMARY KEY (team, person)
) STRICT, WITHOUT ROWID;

CREATE TABLE session (
  id TEXT PRIMARY KEY, -- SHA-256 of what the cookie holds, so that the file alone signs nobody in
  person INTEGER NOT NULL REFERENCES person (id),
  started TEXT NOT NULL,
  ends TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- What is bought and from whom --------------------------------------------------------------------------------------

CREATE TABLE unit (
  code TEXT PRIMARY KEY, -- UN/ECE Recommendation 20
  name TEXT NOT NULL UNIQUE COLLATE NOCASE
) STRICT, WITHOUT ROWID;

CREATE TABLE item (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('stocked', 'not stocked', 'service', 'charge')),
  category TEXT NOT NULL DEFAULT '',
  unit TEXT NOT NULL REFERENCES unit (code),
  gtin TEXT UNIQUE,
  tax_rate INTEGER NOT NULL DEFAULT 2000 CHECK (tax_rate BETWEEN 0 AND 10000),
  reference_cost INTEGER CHECK (reference_cost >= 0), -- per stock unit, home currency
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1))
) STRICT;
CREATE INDEX item_by_name ON item (name COLLATE NOCASE);

CREATE TABLE supplier (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  address TEXT NOT NULL DEFAULT '',
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  terms_days INTEGER NOT NULL DEFAULT 30 CHECK (terms_days BETWEEN 0 AND 365),
  lead_kind TEXT NOT NULL DEFAULT 'calendar' CHECK (lead_kind IN ('calendar', 'working')),
  delivers INTEGER NOT NULL DEFAULT 31 CHECK (delivers BETWEEN 0 AND 127),
  taxed INTEGER NOT NULL DEFAULT 1 CHECK (taxed IN (0, 1)), -- 0: tax is ours to account for (reverse charge)
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1))
) STRICT;

CREATE TABLE supplier_contact (
  id INTEGER PRIMARY KEY,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  name TEXT NOT NULL DEFAULT '',
  mail TEXT NOT NULL,
  for_orders INTEGER NOT NULL DEFAULT 1 CHECK (for_orders IN (0, 1)),
  UNIQUE (supplier, mail)
) STRICT;

CREATE TABLE sourcing (
  id INTEGER PRIMARY KEY,
  item INTEGER NOT NULL REFERENCES item (id),
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  their_code TEXT NOT NULL DEFAULT '',
  their_name TEXT NOT NULL DEFAULT '',
  unit TEXT NOT NULL REFERENCES unit (code),
  factor INTEGER NOT NULL CHECK (factor > 0),
  minimum INTEGER NOT NULL DEFAULT 0 CHECK (minimum >= 0),
  multiple INTEGER NOT NULL DEFAULT 0 CHECK (multiple >= 0),
  broken_packs INTEGER NOT NULL DEFAULT 0 CHECK (broken_packs IN (0, 1)),
  lead_days INTEGER NOT NULL CHECK (lead_days BETWEEN 0 AND 730),
  standing_discount INTEGER NOT NULL DEFAULT 0 CHECK (standing_discount BETWEEN 0 AND 10000),
  rank INTEGER NOT NULL DEFAULT 1 CHECK (rank >= 1), -- 1 is the preferred supplier
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1)),
  UNIQUE (item, supplier)
) STRICT;
CREATE INDEX sourcing_by_supplier ON sourcing (supplier);
CREATE INDEX sourcing_by_their_code ON sourcing (their_code COLLATE NOCASE);

CREATE TABLE price_break (
  id INTEGER PRIMARY KEY,
  sourcing INTEGER NOT NULL REFERENCES sourcing (id),
  from_quantity INTEGER NOT NULL CHECK (from_quantity > 0),
  price INTEGER NOT NULL CHECK (price >= 0),
  valid_from TEXT,
  valid_to TEXT,
  CHECK (valid_from IS NULL OR valid_to IS NULL OR valid_from <= valid_to)
) STRICT;
CREATE UNIQUE INDEX price_break_once ON price_break (sourcing, from_quantity, coalesce(valid_from, ''));

CREATE TABLE item_store (
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  policy TEXT NOT NULL DEFAULT 'larger of' CHECK (policy IN ('top up', 'fixed lot', 'larger of', 'shortfall', 'days of cover', 'to order')),
  reorder_point INTEGER NOT NULL DEFAULT 0 CHECK (reorder_point >= 0),
  lot INTEGER NOT NULL DEFAULT 0 CHECK (lot >= 0), -- the lot, the level or the days of cover, as the policy reads it
  maximum INTEGER CHECK (maximum >= 0),
  review_days INTEGER NOT NULL DEFAULT 7 CHECK (review_days BETWEEN 0 AND 365),
  bin TEXT NOT NULL DEFAULT '',
  on_hand INTEGER NOT NULL DEFAULT 0 CHECK (on_hand >= 0), -- the sum of its movements, kept with each of them
  PRIMARY KEY (item, store)
) STRICT, WITHOUT ROWID;

CREATE TABLE job (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  vessel TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE job_demand (
  id INTEGER PRIMARY KEY,
  job INTEGER NOT NULL REFERENCES job (id),
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  due TEXT NOT NULL,
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  issued INTEGER NOT NULL DEFAULT 0 CHECK (issued >= 0),
  UNIQUE (job, item, store, due)
) STRICT;
CREATE INDEX job_demand_open ON job_demand (item, store, due) WHERE issued < quantity;

-- Papers ------------------------------------------------------------------------------------------------------------

CREATE TABLE series (
  kind TEXT NOT NULL,
  year INTEGER NOT NULL,
  last INTEGER NOT NULL,
  PRIMARY KEY (kind, year)
) STRICT, WITHOUT ROWID;

CREATE TABLE requisition (
  id INTEGER PRIMARY KEY,
  number TEXT UNIQUE, -- given when it is first submitted, so that a deleted draft leaves no gap
  asker INTEGER NOT NULL REFERENCES person (id),
  store INTEGER NOT NULL REFERENCES store (id),
  needed_by TEXT,
  reason TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL CHECK (state IN ('Draft', 'In sign-off', 'Open', 'Part ordered', 'Ordered', 'Met', 'Declined', 'Withdrawn')),
  version INTEGER NOT NULL DEFAULT 1,
  started TEXT NOT NULL,
  submitted TEXT,
  sent_back TEXT
) STRICT;
CREATE INDEX requisition_by_asker ON requisition (asker, id);
CREATE INDEX requisition_waiting ON requisition (state, id) WHERE state IN ('Draft', 'In sign-off', 'Open', 'Part ordered');

CREATE TABLE requisition_line (
  id INTEGER PRIMARY KEY,
  requisition INTEGER NOT NULL REFERENCES requisition (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  item INTEGER REFERENCES item (id),
  words TEXT NOT NULL DEFAULT '', -- a service in free words
  quantity INTEGER CHECK (quantity IS NULL OR quantity > 0), -- stock units
  estimate INTEGER CHECK (estimate IS NULL OR estimate >= 0), -- home currency, for the whole line
  supplier INTEGER REFERENCES supplier (id),
  declined TEXT,
  UNIQUE (requisition, position)
) STRICT;

CREATE TABLE purchase_order (
  id INTEGER PRIMARY KEY,
  number TEXT UNIQUE, -- given when it is first submitted
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  store INTEGER NOT NULL REFERENCES store (id),
  currency TEXT NOT NULL,
  writer INTEGER NOT NULL REFERENCES person (id),
  state TEXT NOT NULL CHECK (state IN ('Draft', 'In sign-off', 'Cleared', 'With supplier', 'Part in', 'All in', 'Cancelled')),
  required TEXT NOT NULL, -- the day it should be in the store
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount BETWEEN 0 AND 10000),
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  written TEXT NOT NULL,
  submitted TEXT,
  cleared TEXT,
  placed TEXT,
  sent_back TEXT, -- why, while it is a draft again
  rate INTEGER, -- home currency for one unit, in millionths, of the day it was submitted, then placed
  net INTEGER NOT NULL DEFAULT 0, -- kept for lists; provable from the lines
  home_net INTEGER NOT NULL DEFAULT 0,
  total INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX purchase_order_by_state ON purchase_order (state, id);
CREATE INDEX purchase_order_by_supplier ON purchase_order (supplier, id);

CREATE TABLE order_line (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  item INTEGER REFERENCES item (id),
  sourcing INTEGER REFERENCES sourcing (id),
  words TEXT NOT NULL,
  their_code TEXT NOT NULL DEFAULT '',
  unit TEXT NOT NULL REFERENCES unit (code),
  factor INTEGER NOT NULL CHECK (factor > 0),
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  price INTEGER CHECK (price IS NULL OR price >= 0), -- null until somebody types one
  price_source TEXT NOT NULL, -- JSON of core/pricing/price.ts
  standing_discount INTEGER NOT NULL DEFAULT 0 CHECK (standing_discount BETWEEN 0 AND 10000),
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount BETWEEN 0 AND 10000),
  tax_rate INTEGER NOT NULL DEFAULT 0,
  required TEXT NOT NULL,
  promised TEXT,
  received INTEGER NOT NULL DEFAULT 0 CHECK (received >= 0 AND received <= quantity),
  -- What planning reads for many rows: where it goes and whether anything is still to come.
  store INTEGER NOT NULL REFERENCES store (id),
  open INTEGER NOT NULL DEFAULT 1 CHECK (open IN (0, 1)),
  UNIQUE (purchase_order, position)
) STRICT;
CREATE INDEX order_line_open ON order_line (item, store) WHERE open = 1;
CREATE INDEX order_line_by_item ON order_line (item, id);

-- What an order line is for. A line may serve several needs; a need that came from the reorder point has no paper.
CREATE TABLE need_tie (
  order_line INTEGER NOT NULL REFERENCES order_line (id) ON DELETE CASCADE,
  source TEXT NOT NULL CHECK (source IN ('requisition', 'reorder')),
  requisition_line INTEGER REFERENCES requisition_line (id),
  quantity INTEGER NOT NULL, -- stock units
  CHECK ((source = 'requisition') = (requisition_line IS NOT NULL))
) STRICT;
CREATE INDEX need_tie_by_line ON need_tie (order_line);
CREATE UNIQUE INDEX need_tie_once ON need_tie (requisition_line) WHERE requisition_line IS NOT NULL;

-- Each placed order as it left the house.
CREATE TABLE order_version (
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  version INTEGER NOT NULL,
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  document TEXT NOT NULL,
  PRIMARY KEY (purchase_order, version)
) STRICT, WITHOUT ROWID;

-- Sign-off ----------------------------------------------------------------------------------------------------------

CREATE TABLE ladder (
  id INTEGER PRIMARY KEY,
  paper TEXT NOT NULL CHECK (paper IN ('requisition', 'order')),
  name TEXT NOT NULL,
  position INTEGER NOT NULL,
  UNIQUE (paper, position)
) STRICT;

CREATE TABLE rung (
  ladder INTEGER NOT NULL REFERENCES ladder (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  up_to INTEGER CHECK (up_to IS NULL OR up_to >= 0), -- home currency, inclusive; null is whatever is above
  team INTEGER REFERENCES team (id), -- null: nobody
  hours INTEGER NOT NULL DEFAULT 8 CHECK (hours BETWEEN 0 AND 1000),
  PRIMARY KEY (ladder, position)
) STRICT, WITHOUT ROWID;

-- The signatures that a submitted paper needs, in order, and what became of each.
CREATE TABLE signature (
  id INTEGER PRIMARY KEY,
  paper TEXT NOT NULL CHECK (paper IN ('requisition', 'order')),
  requisition INTEGER REFERENCES requisition (id),
  purchase_order INTEGER REFERENCES purchase_order (id),
  round INTEGER NOT NULL,
  position INTEGER NOT NULL,
  team INTEGER NOT NULL REFERENCES team (id),
  amount INTEGER NOT NULL, -- home currency, net of tax, as submitted
  hours INTEGER NOT NULL,
  asked TEXT, -- when it became this rung's turn
  state TEXT NOT NULL CHECK (state IN ('later', 'waiting', 'signed', 'sent back', 'not reached')),
  person INTEGER REFERENCES person (id),
  at TEXT,
  reason TEXT NOT NULL DEFAULT '',
  CHECK ((paper = 'requisition') = (requisition IS NOT NULL)),
  CHECK ((paper = 'order') = (purchase_order IS NOT NULL))
) STRICT;
CREATE INDEX signature_waiting ON signature (team) WHERE state = 'waiting';
CREATE INDEX signature_of_order ON signature (purchase_order) WHERE purchase_order IS NOT NULL;
CREATE INDEX signature_of_requisition ON signature (requisition) WHERE requisition IS NOT NULL;

-- Goods -------------------------------------------------------------------------------------------------------------

CREATE TABLE receipt (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  store INTEGER NOT NULL REFERENCES store (id),
  day TEXT NOT NULL,
  delivery_note TEXT NOT NULL DEFAULT '',
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX receipt_by_order ON receipt (purchase_order, id);
CREATE INDEX receipt_by_day ON receipt (store, day);

CREATE TABLE receipt_line (
  id INTEGER PRIMARY KEY,
  receipt INTEGER NOT NULL REFERENCES receipt (id),
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units
  stock_quantity INTEGER NOT NULL CHECK (stock_quantity > 0), -- stock units
  value INTEGER NOT NULL -- at order price less discounts, order currency
) STRICT;
CREATE INDEX receipt_line_by_receipt ON receipt_line (receipt);
CREATE INDEX receipt_line_by_line ON receipt_line (order_line);

CREATE TABLE movement (
  id INTEGER PRIMARY KEY,
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  day TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('opening', 'receipt', 'issue', 'return', 'count')),
  quantity INTEGER NOT NULL, -- stock units, signed
  receipt_line INTEGER REFERENCES receipt_line (id),
  job INTEGER REFERENCES job (id),
  note TEXT NOT NULL DEFAULT '',
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX movement_by_item ON movement (item, store, day);
CREATE INDEX movement_by_receipt ON movement (receipt_line) WHERE receipt_line IS NOT NULL;

-- Told and sent -----------------------------------------------------------------------------------------------------

CREATE TABLE notice (
  id INTEGER PRIMARY KEY,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  text TEXT NOT NULL,
  detail TEXT NOT NULL DEFAULT '',
  href TEXT NOT NULL,
  read TEXT
) STRICT;
CREATE INDEX notice_unread ON notice (person, id) WHERE read IS NULL;

CREATE INDEX notice_of_paper ON notice (href) WHERE read IS NULL;

CREATE TABLE mail (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  recipients TEXT NOT NULL,
  subject TEXT NOT NULL,
  purchase_order INTEGER REFERENCES purchase_order (id),
  person INTEGER NOT NULL REFERENCES person (id),
  eml BLOB NOT NULL,
  file TEXT -- where the stand-in put it; null until it did
) STRICT;
CREATE INDEX mail_unsent ON mail (id) WHERE file IS NULL;

-- What was done -----------------------------------------------------------------------------------------------------

CREATE TABLE audit (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  person INTEGER REFERENCES person (id),
  act TEXT NOT NULL,
  subject TEXT NOT NULL,
  detail TEXT NOT NULL,
  before TEXT NOT NULL, -- hash of the row before
  hash TEXT NOT NULL UNIQUE
) STRICT;
CREATE INDEX audit_by_subject ON audit (subject, id);

-- An act that was sent twice happens once: its answer is kept under the key that came with it.
CREATE TABLE submission (
  key TEXT NOT NULL,
  person INTEGER NOT NULL,
  act TEXT NOT NULL,
  answer TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (person, key)
) STRICT, WITHOUT ROWID;

-- Rows that are only ever added.
CREATE TRIGGER movement_stays BEFORE UPDATE ON movement BEGIN SELECT raise(ABORT, 'movements are never changed'); END;
CREATE TRIGGER movement_kept BEFORE DELETE ON movement BEGIN SELECT raise(ABORT, 'movements are never deleted'); END;
CREATE TRIGGER receipt_stays BEFORE UPDATE ON receipt BEGIN SELECT raise(ABORT, 'receipts are never changed'); END;
CREATE TRIGGER receipt_kept BEFORE DELETE ON receipt BEGIN SELECT raise(ABORT, 'receipts are never deleted'); END;
CREATE TRIGGER receipt_line_stays BEFORE UPDATE ON receipt_line BEGIN SELECT raise(ABORT, 'receipts are never changed'); END;
CREATE TRIGGER receipt_line_kept BEFORE DELETE ON receipt_line BEGIN SELECT raise(ABORT, 'receipts are never deleted'); END;
CREATE TRIGGER version_stays BEFORE UPDATE ON order_version BEGIN SELECT raise(ABORT, 'versions are never changed'); END;
CREATE TRIGGER version_kept BEFORE DELETE ON order_version BEGIN SELECT raise(ABORT, 'versions are never deleted'); END;
CREATE TRIGGER audit_stays BEFORE UPDATE ON audit BEGIN SELECT raise(ABORT, 'the audit trail is never changed'); END;
CREATE TRIGGER audit_kept BEFORE DELETE ON audit BEGIN SELECT raise(ABORT, 'the audit trail is never changed'); END;
CREATE TRIGGER order_kept BEFORE DELETE ON purchase_order WHEN old.state <> 'Draft' OR old.number IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a numbered order is never deleted'); END;
CREATE TRIGGER requisition_kept BEFORE DELETE ON requisition WHEN old.state <> 'Draft' OR old.number IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a numbered requisition is never deleted'); END;

INSERT INTO unit (code, name) VALUES
  ('C62', 'each'), ('LTR', 'L'), ('KGM', 'kg'), ('MTR', 'm'), ('MTK', 'm²'), ('HUR', 'hour'), ('DAY', 'day'),
  ('DR', 'drum'), ('CL', 'coil'), ('BX', 'box'), ('PK', 'pack'), ('KEG', 'keg'), ('PR', 'pair'), ('SET', 'set'),
  ('CS', 'case'), ('CA', 'can'), ('BG', 'bag'), ('RO', 'roll'), ('TNE', 'tonne'), ('E48', 'visit'), ('BJ', 'pail'),
  ('CT', 'carton'), ('ST', 'sheet'), ('LM', 'length'), ('TU', 'tube'), ('BO', 'bottle');

-- Needs in full: calendars, six sources, choices of each person, alternatives, transfers, tokens; and what tells the
-- planner which pairs of item and store it must work out anew.

-- Calendars. A region is one of the package date-holidays, such as NO or GB-SCT; empty keeps no holidays.
ALTER TABLE supplier ADD COLUMN region TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier ADD COLUMN cut_off INTEGER CHECK (cut_off BETWEEN 1 AND 23); -- orders sent from this hour on count as sent a day later
ALTER TABLE supplier ADD COLUMN buyer INTEGER REFERENCES person (id); -- who looks after this supplier
ALTER TABLE store ADD COLUMN region TEXT NOT NULL DEFAULT '';

ALTER TABLE company ADD COLUMN count_output INTEGER NOT NULL DEFAULT 0 CHECK (count_output IN (0, 1));
ALTER TABLE company ADD COLUMN tie_jobs INTEGER NOT NULL DEFAULT 0 CHECK (tie_jobs IN (0, 1));
ALTER TABLE company ADD COLUMN service_level INTEGER NOT NULL DEFAULT 9500 CHECK (service_level BETWEEN 5000 AND 9999); -- wished for, in hundredths of a percent

-- Accounts and budget lines: names to choose from. What is spent against them is worked out from the papers.
CREATE TABLE account (code TEXT PRIMARY KEY COLLATE NOCASE, name TEXT NOT NULL) STRICT, WITHOUT ROWID;
CREATE TABLE budget (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name TEXT NOT NULL,
  starts TEXT NOT NULL,
  ends TEXT NOT NULL,
  amount INTEGER NOT NULL CHECK (amount >= 0), -- home currency
  CHECK (starts <= ends)
) STRICT;

ALTER TABLE item ADD COLUMN account TEXT REFERENCES account (code);
ALTER TABLE item ADD COLUMN by_lot INTEGER NOT NULL DEFAULT 0 CHECK (by_lot IN (0, 1));

-- The level to top up to and the days of cover stand beside the lot, so that one run can use another policy.
ALTER TABLE item_store ADD COLUMN level INTEGER NOT NULL DEFAULT 0 CHECK (level >= 0);
ALTER TABLE item_store ADD COLUMN cover_days INTEGER NOT NULL DEFAULT 0 CHECK (cover_days BETWEEN 0 AND 730);
UPDATE item_store SET level = lot, lot = 0 WHERE policy = 'top up';
UPDATE item_store SET cover_days = min(lot / 10000, 730), lot = 0 WHERE policy = 'days of cover';

-- What may stand in for an item that cannot be had in time.
CREATE TABLE alternative (
  item INTEGER NOT NULL REFERENCES item (id),
  other INTEGER NOT NULL REFERENCES item (id),
  both_ways INTEGER NOT NULL DEFAULT 0 CHECK (both_ways IN (0, 1)),
  note TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (item, other),
  CHECK (item <> other)
) STRICT, WITHOUT ROWID;
CREATE INDEX alternative_back ON alternative (other);

-- Lots and places. A lot that has expired or is held is there, but may not be used.
CREATE TABLE lot (
  id INTEGER PRIMARY KEY,
  item INTEGER NOT NULL REFERENCES item (id),
  code TEXT NOT NULL COLLATE NOCASE,
  expires TEXT,
  held TEXT NOT NULL DEFAULT '', -- why it may not be used
  UNIQUE (item, code)
) STRICT;

ALTER TABLE job ADD COLUMN kind TEXT NOT NULL DEFAULT 'job' CHECK (kind IN ('job', 'customer order'));
ALTER TABLE job ADD COLUMN closed TEXT; -- when it needed nothing more
ALTER TABLE job_demand ADD COLUMN tied INTEGER NOT NULL DEFAULT 0 CHECK (tied >= 0); -- stock units to be bought for this job alone
CREATE INDEX job_demand_tied ON job_demand (id) WHERE tied > 0;
-- What a job gives back to stock, such as a rebuilt pump.
CREATE TABLE job_output (
  id INTEGER PRIMARY KEY,
  job INTEGER NOT NULL REFERENCES job (id),
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  due TEXT NOT NULL,
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  given INTEGER NOT NULL DEFAULT 0 CHECK (given >= 0),
  UNIQUE (job, item, store, due)
) STRICT;
CREATE INDEX job_output_open ON job_output (item, store, due) WHERE given < quantity;

-- Requisitions in full.
ALTER TABLE requisition ADD COLUMN copied_from INTEGER REFERENCES requisition (id);
ALTER TABLE requisition ADD COLUMN ended_why TEXT; -- declined, withdrawn or sent back by the buyer
CREATE TABLE requisition_watcher (
  requisition INTEGER NOT NULL REFERENCES requisition (id) ON DELETE CASCADE,
  person INTEGER NOT NULL REFERENCES person (id),
  PRIMARY KEY (requisition, person)
) STRICT, WITHOUT ROWID;
ALTER TABLE requisition_line ADD COLUMN kind TEXT NOT NULL DEFAULT 'service' CHECK (kind IN ('goods', 'service')); -- of a line in free words
ALTER TABLE requisition_line ADD COLUMN account TEXT REFERENCES account (code);
ALTER TABLE requisition_line ADD COLUMN budget INTEGER REFERENCES budget (id);
ALTER TABLE requisition_line ADD COLUMN decided INTEGER CHECK (decided IS NULL OR decided > 0); -- the buyer's quantity, stock units
ALTER TABLE requisition_line ADD COLUMN offered INTEGER REFERENCES item (id); -- the buyer's alternative
ALTER TABLE requisition_line ADD COLUMN decided_why TEXT NOT NULL DEFAULT '';
ALTER TABLE requisition_line ADD COLUMN decided_by INTEGER REFERENCES person (id);
CREATE TABLE attachment (
  id INTEGER PRIMARY KEY,
  requisition INTEGER NOT NULL REFERENCES requisition (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX attachment_of_requisition ON attachment (requisition);

-- Needs that somebody noted down: walking the shelves, from a spreadsheet, or to repeat an earlier order.
CREATE TABLE noted_need (
  id INTEGER PRIMARY KEY,
  source TEXT NOT NULL CHECK (source IN ('floor', 'file', 'repeat')),
  item INTEGER REFERENCES item (id), -- null: nobody knows this code yet
  code TEXT NOT NULL, -- as it was scanned or written
  store INTEGER NOT NULL REFERENCES store (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- stock units
  needed_by TEXT, -- null: as soon as it usually comes
  sourcing INTEGER REFERENCES sourcing (id), -- whom an earlier order went to
  note TEXT NOT NULL DEFAULT '',
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  line_key TEXT UNIQUE, -- given by the handheld, so that a line sent twice arrives once
  dropped TEXT -- why it was put aside
) STRICT;
CREATE INDEX noted_need_open ON noted_need (id) WHERE dropped IS NULL;

-- Orders that were open in the system before: our number stands beside theirs.
ALTER TABLE purchase_order ADD COLUMN brought TEXT;
CREATE UNIQUE INDEX purchase_order_brought ON purchase_order (brought) WHERE brought IS NOT NULL;

-- What an order line is for, now with every source.
CREATE TABLE need_tie_new (
  order_line INTEGER NOT NULL REFERENCES order_line (id) ON DELETE CASCADE,
  source TEXT NOT NULL CHECK (source IN ('requisition', 'reorder', 'job', 'noted')),
  requisition_line INTEGER REFERENCES requisition_line (id),
  job_demand INTEGER REFERENCES job_demand (id),
  noted_need INTEGER REFERENCES noted_need (id),
  quantity INTEGER NOT NULL, -- stock units
  CHECK ((source = 'requisition') = (requisition_line IS NOT NULL)),
  CHECK ((source = 'job') = (job_demand IS NOT NULL)),
  CHECK ((source = 'noted') = (noted_need IS NOT NULL))
) STRICT;
INSERT INTO need_tie_new (order_line, source, requisition_line, quantity) SELECT order_line, source, requisition_line, quantity FROM need_tie;
DROP TABLE need_tie;
ALTER TABLE need_tie_new RENAME TO need_tie;
CREATE INDEX need_tie_by_line ON need_tie (order_line);
CREATE UNIQUE INDEX need_tie_once ON need_tie (requisition_line) WHERE requisition_line IS NOT NULL;
CREATE UNIQUE INDEX need_tie_noted_once ON need_tie (noted_need) WHERE noted_need IS NOT NULL;
CREATE INDEX need_tie_by_demand ON need_tie (job_demand) WHERE job_demand IS NOT NULL;

-- Goods from one of our stores to another: a paper with two movements.
CREATE TABLE transfer (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  from_store INTEGER NOT NULL REFERENCES store (id),
  to_store INTEGER NOT NULL REFERENCES store (id),
  day TEXT NOT NULL, -- when the goods should be there
  state TEXT NOT NULL CHECK (state IN ('Planned', 'Moved', 'Cancelled')),
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  moved TEXT,
  moved_by INTEGER REFERENCES person (id),
  CHECK (from_store <> to_store)
) STRICT;
CREATE INDEX transfer_open ON transfer (id) WHERE state = 'Planned';
CREATE TABLE transfer_line (
  id INTEGER PRIMARY KEY,
  transfer INTEGER NOT NULL REFERENCES transfer (id),
  item INTEGER NOT NULL REFERENCES item (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- stock units
  requisition_line INTEGER REFERENCES requisition_line (id),
  noted_need INTEGER REFERENCES noted_need (id)
) STRICT;
CREATE INDEX transfer_line_of ON transfer_line (transfer);
CREATE INDEX transfer_line_by_item ON transfer_line (item);
CREATE UNIQUE INDEX transfer_line_requisition ON transfer_line (requisition_line) WHERE requisition_line IS NOT NULL;
CREATE UNIQUE INDEX transfer_line_noted ON transfer_line (noted_need) WHERE noted_need IS NOT NULL;

-- Movements also name a place and a lot, and know transfers and what jobs give back.
CREATE TABLE movement_new (
  id INTEGER PRIMARY KEY,
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  bin TEXT NOT NULL DEFAULT '',
  lot INTEGER REFERENCES lot (id),
  day TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('opening', 'receipt', 'issue', 'return', 'count', 'transfer', 'output')),
  quantity INTEGER NOT NULL, -- stock units, signed
  receipt_line INTEGER REFERENCES receipt_line (id),
  transfer_line INTEGER REFERENCES transfer_line (id),
  job INTEGER REFERENCES job (id),
  note TEXT NOT NULL DEFAULT '',
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
INSERT INTO movement_new (id, item, store, day, kind, quantity, receipt_line, job, note, person, at)
  SELECT id, item, store, day, kind, quantity, receipt_line, job, note, person, at FROM movement;
DROP TABLE movement;
ALTER TABLE movement_new RENAME TO movement;
CREATE INDEX movement_by_item ON movement (item, store, day);
CREATE INDEX movement_use ON movement (item, store, day, quantity) WHERE kind = 'issue';
CREATE INDEX movement_by_receipt ON movement (receipt_line) WHERE receipt_line IS NOT NULL;
CREATE TRIGGER movement_stays BEFORE UPDATE ON movement BEGIN SELECT raise(ABORT, 'movements are never changed'); END;
CREATE TRIGGER movement_kept BEFORE DELETE ON movement BEGIN SELECT raise(ABORT, 'movements are never deleted'); END;

-- What lies in lots, kept with every movement of one; what has no lot is the rest of the pair's stock.
CREATE TABLE stock_lot (
  item INTEGER NOT NULL,
  store INTEGER NOT NULL,
  bin TEXT NOT NULL,
  lot INTEGER NOT NULL REFERENCES lot (id),
  on_hand INTEGER NOT NULL CHECK (on_hand >= 0),
  PRIMARY KEY (item, store, bin, lot)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER movement_of_lot AFTER INSERT ON movement WHEN new.lot IS NOT NULL BEGIN
  INSERT INTO stock_lot (item, store, bin, lot, on_hand) VALUES (new.item, new.store, new.bin, new.lot, 0) ON CONFLICT DO NOTHING;
  UPDATE stock_lot SET on_hand = on_hand + new.quantity WHERE item = new.item AND store = new.store AND bin = new.bin AND lot = new.lot;
END;

-- What each person has chosen in Needs, until it is placed.
CREATE TABLE need_choice (
  person INTEGER NOT NULL REFERENCES person (id),
  need TEXT NOT NULL,
  ticked INTEGER NOT NULL DEFAULT 0 CHECK (ticked IN (0, 1)),
  quantity TEXT, -- purchase units as typed
  sourcing INTEGER REFERENCES sourcing (id),
  PRIMARY KEY (person, need)
) STRICT, WITHOUT ROWID;
-- Pairs whose needs stand as one row, with all their sources.
CREATE TABLE merged_need (
  item INTEGER NOT NULL REFERENCES item (id),
  store INTEGER NOT NULL REFERENCES store (id),
  PRIMARY KEY (item, store)
) STRICT, WITHOUT ROWID;

CREATE TABLE sheet_view (
  id INTEGER PRIMARY KEY,
  person INTEGER NOT NULL REFERENCES person (id),
  sheet TEXT NOT NULL,
  name TEXT NOT NULL COLLATE NOCASE,
  address TEXT NOT NULL, -- the part after the question mark
  UNIQUE (person, sheet, name)
) STRICT;

-- For other programs: acts with the person's rights. Only the hash is kept.
CREATE TABLE access_token (
  id INTEGER PRIMARY KEY,
  person INTEGER NOT NULL REFERENCES person (id),
  name TEXT NOT NULL,
  hash TEXT NOT NULL UNIQUE,
  made TEXT NOT NULL,
  ends TEXT NOT NULL,
  ended TEXT,
  used TEXT
) STRICT;
CREATE INDEX access_token_of ON access_token (person);

-- What the planner must work out anew: each pair with the tick of the clock at which it was last touched. Item 0 stands
-- for everything, store 0 for all stores of an item, item -1 for needs that stand on papers alone.
CREATE TABLE plan_clock (id INTEGER PRIMARY KEY CHECK (id = 1), n INTEGER NOT NULL) STRICT;
INSERT INTO plan_clock VALUES (1, 1);
CREATE TABLE plan_touch (
  item INTEGER NOT NULL,
  store INTEGER NOT NULL,
  n INTEGER NOT NULL,
  PRIMARY KEY (item, store)
) STRICT, WITHOUT ROWID;
CREATE INDEX plan_touch_since ON plan_touch (n);
CREATE TRIGGER plan_touched AFTER INSERT ON plan_touch BEGIN
  UPDATE plan_clock SET n = n + 1;
  UPDATE plan_touch SET n = (SELECT n FROM plan_clock) WHERE item = new.item AND store = new.store;
END;
CREATE TRIGGER plan_touched_again AFTER UPDATE OF n ON plan_touch WHEN new.n = 0 BEGIN
  UPDATE plan_clock SET n = n + 1;
  UPDATE plan_touch SET n = (SELECT n FROM plan_clock) WHERE item = new.item AND store = new.store;
END;

CREATE TRIGGER touch_movement AFTER INSERT ON movement BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_pair_added AFTER INSERT ON item_store BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_pair_changed AFTER UPDATE ON item_store BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_line_added AFTER INSERT ON order_line WHEN new.item IS NOT NULL BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_line_changed AFTER UPDATE OF item, store, quantity, received, open, promised, required, factor ON order_line WHEN new.item IS NOT NULL BEGIN
  INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch SELECT old.item, old.store, 0 WHERE old.item IS NOT NULL AND (old.item <> new.item OR old.store <> new.store) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_line_gone AFTER DELETE ON order_line WHEN old.item IS NOT NULL BEGIN INSERT INTO plan_touch VALUES (old.item, old.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_order AFTER UPDATE OF state, number ON purchase_order BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, store, 0 FROM order_line WHERE purchase_order = new.id AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_demand_added AFTER INSERT ON job_demand BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_demand_changed AFTER UPDATE ON job_demand BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_demand_gone AFTER DELETE ON job_demand BEGIN INSERT INTO plan_touch VALUES (old.item, old.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
-- What is tied to a job stands among the needs on papers, too.
CREATE TRIGGER touch_tied_changed AFTER UPDATE ON job_demand WHEN new.tied > 0 OR old.tied > 0 BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_tied_gone AFTER DELETE ON job_demand WHEN old.tied > 0 BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_job AFTER UPDATE OF closed, code, vessel, kind ON job BEGIN
  INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch SELECT item, store, 0 FROM job_demand WHERE job = new.id UNION SELECT item, store, 0 FROM job_output WHERE job = new.id ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_output_added AFTER INSERT ON job_output BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_output_changed AFTER UPDATE ON job_output BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_transfer_line AFTER INSERT ON transfer_line BEGIN
  INSERT INTO plan_touch SELECT new.item, from_store, 0 FROM transfer WHERE id = new.transfer ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch SELECT new.item, to_store, 0 FROM transfer WHERE id = new.transfer ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_transfer AFTER UPDATE ON transfer BEGIN
  INSERT INTO plan_touch SELECT item, new.from_store, 0 FROM transfer_line WHERE transfer = new.id ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch SELECT item, new.to_store, 0 FROM transfer_line WHERE transfer = new.id ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_lot AFTER UPDATE ON lot BEGIN INSERT INTO plan_touch VALUES (new.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_item AFTER UPDATE ON item BEGIN INSERT INTO plan_touch VALUES (new.id, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_source_added AFTER INSERT ON sourcing BEGIN INSERT INTO plan_touch VALUES (new.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_source_changed AFTER UPDATE ON sourcing BEGIN INSERT INTO plan_touch VALUES (new.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_price_added AFTER INSERT ON price_break BEGIN INSERT INTO plan_touch SELECT item, 0, 0 FROM sourcing WHERE id = new.sourcing ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_price_changed AFTER UPDATE ON price_break BEGIN INSERT INTO plan_touch SELECT item, 0, 0 FROM sourcing WHERE id = new.sourcing ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_price_gone AFTER DELETE ON price_break BEGIN INSERT INTO plan_touch SELECT item, 0, 0 FROM sourcing WHERE id = old.sourcing ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_supplier AFTER UPDATE ON supplier BEGIN INSERT INTO plan_touch VALUES (0, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_store AFTER UPDATE ON store BEGIN INSERT INTO plan_touch VALUES (0, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_company AFTER UPDATE ON company BEGIN INSERT INTO plan_touch VALUES (0, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_rate_added AFTER INSERT ON rate BEGIN INSERT INTO plan_touch VALUES (0, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_rate_changed AFTER UPDATE ON rate BEGIN INSERT INTO plan_touch VALUES (0, 0, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_requisition AFTER UPDATE ON requisition BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_requisition_line AFTER UPDATE ON requisition_line BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_noted_added AFTER INSERT ON noted_need BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_noted_changed AFTER UPDATE ON noted_need BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_tie_added AFTER INSERT ON need_tie BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_tie_gone AFTER DELETE ON need_tie BEGIN INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_merged AFTER INSERT ON merged_need BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_split AFTER DELETE ON merged_need BEGIN INSERT INTO plan_touch VALUES (old.item, old.store, 0) ON CONFLICT DO UPDATE SET n = 0; INSERT INTO plan_touch VALUES (-1, -1, 0) ON CONFLICT DO UPDATE SET n = 0; END;

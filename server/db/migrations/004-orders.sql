-- The order in full: kinds, everything its header and lines say, blanket orders and what is drawn from them, budgets.

-- How a supplier is paid, ships and is written to; an order may say otherwise for itself.
ALTER TABLE supplier ADD COLUMN terms_from TEXT NOT NULL DEFAULT 'invoice' CHECK (terms_from IN ('invoice', 'end of month'));
ALTER TABLE supplier ADD COLUMN early_percent INTEGER NOT NULL DEFAULT 0 CHECK (early_percent BETWEEN 0 AND 10000);
ALTER TABLE supplier ADD COLUMN early_days INTEGER NOT NULL DEFAULT 0 CHECK (early_days BETWEEN 0 AND 365);
ALTER TABLE supplier ADD COLUMN delivery_terms TEXT NOT NULL DEFAULT ''; -- an Incoterms 2020 rule, or nothing agreed
ALTER TABLE supplier ADD COLUMN delivery_place TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier ADD COLUMN carrier TEXT NOT NULL DEFAULT '';

ALTER TABLE item ADD COLUMN weight INTEGER CHECK (weight > 0); -- kg of one stock unit, in ten-thousandths

-- A buyer's own series of order numbers; empty: the company's.
ALTER TABLE person ADD COLUMN series TEXT NOT NULL DEFAULT '' CHECK (length(series) <= 4);

-- Orders that jobs marked for direct delivery make by themselves.
ALTER TABLE job ADD COLUMN direct INTEGER NOT NULL DEFAULT 0 CHECK (direct IN (0, 1));
ALTER TABLE job ADD COLUMN address TEXT NOT NULL DEFAULT ''; -- where the vessel lies or the customer sits
ALTER TABLE company ADD COLUMN direct_orders INTEGER NOT NULL DEFAULT 0 CHECK (direct_orders IN (0, 1));
-- Whether what is ordered counts against the budget of the day it is due, or of the day it is ordered.
ALTER TABLE company ADD COLUMN budget_by TEXT NOT NULL DEFAULT 'due' CHECK (budget_by IN ('due', 'ordered'));

-- A budget line goes on from period to period under one code.
CREATE TABLE budget_new (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL COLLATE NOCASE,
  name TEXT NOT NULL,
  starts TEXT NOT NULL,
  ends TEXT NOT NULL,
  amount INTEGER NOT NULL CHECK (amount >= 0), -- home currency
  CHECK (starts <= ends),
  UNIQUE (code, starts)
) STRICT;
INSERT INTO budget_new SELECT id, code, name, starts, ends, amount FROM budget;
DROP TABLE budget;
ALTER TABLE budget_new RENAME TO budget;

CREATE TABLE purchase_order_new (
  id INTEGER PRIMARY KEY,
  number TEXT UNIQUE, -- given when it is first submitted
  kind TEXT NOT NULL DEFAULT 'one-off' CHECK (kind IN ('one-off', 'blanket', 'call-off', 'direct', 'standing')),
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  store INTEGER NOT NULL REFERENCES store (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  writer INTEGER NOT NULL REFERENCES person (id),
  helper INTEGER REFERENCES person (id), -- who wrote it in the writer's name
  state TEXT NOT NULL CHECK (state IN ('Draft', 'In sign-off', 'Cleared', 'With supplier', 'Confirmed in part', 'Confirmed', 'Part in', 'All in', 'Closed short', 'Cancelled')),
  required TEXT NOT NULL, -- the day it should be in the store
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount BETWEEN 0 AND 10000),
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  written TEXT NOT NULL,
  submitted TEXT,
  cleared TEXT,
  placed TEXT,
  sent_back TEXT, -- why, while it is a draft again
  rate INTEGER, -- home currency for one unit, in millionths; of the day it was placed from then on
  net INTEGER NOT NULL DEFAULT 0, -- kept for lists; provable from the lines
  home_net INTEGER NOT NULL DEFAULT 0,
  total INTEGER NOT NULL DEFAULT 0,
  freight INTEGER NOT NULL DEFAULT 0,
  home_freight INTEGER NOT NULL DEFAULT 0,
  brought TEXT, -- its number in the system before
  title TEXT NOT NULL DEFAULT '', -- what a standing list or a blanket order is called
  contact INTEGER REFERENCES supplier_contact (id),
  our_reference TEXT NOT NULL DEFAULT '',
  their_reference TEXT NOT NULL DEFAULT '',
  -- What is null is as the supplier's record says.
  terms_days INTEGER CHECK (terms_days BETWEEN 0 AND 365),
  terms_from TEXT CHECK (terms_from IN ('invoice', 'end of month')),
  early_percent INTEGER CHECK (early_percent BETWEEN 0 AND 10000),
  early_days INTEGER CHECK (early_days BETWEEN 0 AND 365),
  delivery_terms TEXT,
  delivery_place TEXT,
  carrier TEXT,
  texts TEXT, -- the standing texts as changed for this order alone
  deliver_name TEXT NOT NULL DEFAULT '', -- where it goes instead of the store
  deliver_address TEXT NOT NULL DEFAULT '',
  job INTEGER REFERENCES job (id), -- whom a direct delivery serves
  valid_until TEXT,
  held TEXT NOT NULL DEFAULT '', -- why nobody may go on with it
  held_by INTEGER REFERENCES person (id),
  held_at TEXT,
  -- A blanket order holds from a day to a day.
  starts TEXT,
  ends TEXT,
  closed TEXT, -- when it was closed short, and why
  closed_why TEXT NOT NULL DEFAULT '',
  CHECK ((kind = 'blanket') = (starts IS NOT NULL)),
  CHECK ((starts IS NULL) = (ends IS NULL)),
  CHECK (starts IS NULL OR starts <= ends)
) STRICT;
INSERT INTO purchase_order_new (id, number, supplier, store, currency, writer, state, required, discount, note, version, written, submitted, cleared, placed,
    sent_back, rate, net, home_net, total, freight, home_freight, brought)
  SELECT id, number, supplier, store, currency, writer, state, required, discount, note, version, written, submitted, cleared, placed,
    sent_back, rate, net, home_net, total, freight, home_freight, brought FROM purchase_order;
DROP TABLE purchase_order;
ALTER TABLE purchase_order_new RENAME TO purchase_order;
CREATE INDEX purchase_order_by_state ON purchase_order (state, id);
CREATE INDEX purchase_order_by_supplier ON purchase_order (supplier, id);
CREATE INDEX purchase_order_blankets ON purchase_order (supplier, ends) WHERE kind = 'blanket';
CREATE UNIQUE INDEX purchase_order_brought ON purchase_order (brought) WHERE brought IS NOT NULL;
CREATE TRIGGER order_kept BEFORE DELETE ON purchase_order WHEN old.state <> 'Draft' OR old.number IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a numbered order is never deleted'); END;
CREATE TRIGGER touch_order AFTER UPDATE OF state, number ON purchase_order BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, store, 0 FROM order_line WHERE purchase_order = new.id AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;

ALTER TABLE order_line ADD COLUMN kind TEXT NOT NULL DEFAULT 'stocked' CHECK (kind IN ('stocked', 'not stocked', 'service', 'charge'));
UPDATE order_line SET kind = coalesce((SELECT i.kind FROM item i WHERE i.id = order_line.item), 'service');
-- How a charge counts: as part of what the goods cost, by their value or weight, or as an expense of its own.
ALTER TABLE order_line ADD COLUMN spread TEXT NOT NULL DEFAULT 'expense' CHECK (spread IN ('value', 'weight', 'expense'));
ALTER TABLE order_line ADD COLUMN account TEXT REFERENCES account (code);
ALTER TABLE order_line ADD COLUMN budget INTEGER REFERENCES budget (id);
ALTER TABLE order_line ADD COLUMN job INTEGER REFERENCES job (id);
ALTER TABLE order_line ADD COLUMN note TEXT NOT NULL DEFAULT ''; -- printed below the line
ALTER TABLE order_line ADD COLUMN own_note TEXT NOT NULL DEFAULT ''; -- never leaves the house
ALTER TABLE order_line ADD COLUMN bin TEXT NOT NULL DEFAULT ''; -- where it is stowed; empty: its usual bin
ALTER TABLE order_line ADD COLUMN closed_short INTEGER NOT NULL DEFAULT 0 CHECK (closed_short >= 0); -- never to come
-- Of a blanket order: what is committed, and the least to call off at once. Of a call-off: the line it is drawn from.
ALTER TABLE order_line ADD COLUMN limits TEXT NOT NULL DEFAULT 'quantity' CHECK (limits IN ('quantity', 'value', 'both'));
ALTER TABLE order_line ADD COLUMN committed_value INTEGER CHECK (committed_value > 0);
ALTER TABLE order_line ADD COLUMN least INTEGER NOT NULL DEFAULT 0 CHECK (least >= 0);
ALTER TABLE order_line ADD COLUMN blanket_line INTEGER REFERENCES order_line (id);
CREATE INDEX order_line_called ON order_line (blanket_line) WHERE blanket_line IS NOT NULL;
CREATE INDEX order_line_budget ON order_line (budget) WHERE budget IS NOT NULL;
UPDATE order_line SET open = 0 WHERE kind = 'charge';

-- What is called off is no longer left for anybody else, at any store.
CREATE TRIGGER touch_call AFTER INSERT ON order_line WHEN new.blanket_line IS NOT NULL AND new.item IS NOT NULL BEGIN
  INSERT INTO plan_touch VALUES (new.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_call_changed AFTER UPDATE OF blanket_line, quantity, closed_short ON order_line
  WHEN (new.blanket_line IS NOT NULL OR old.blanket_line IS NOT NULL) AND new.item IS NOT NULL BEGIN
  INSERT INTO plan_touch VALUES (new.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_call_gone AFTER DELETE ON order_line WHEN old.blanket_line IS NOT NULL AND old.item IS NOT NULL BEGIN
  INSERT INTO plan_touch VALUES (old.item, 0, 0) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_blanket AFTER UPDATE OF state, starts, ends ON purchase_order WHEN new.kind = 'blanket' BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, 0, 0 FROM order_line WHERE purchase_order = new.id AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;

-- A line that comes in several loads; they add up to it. Goods that come fill the earliest first, so `upto` is the sum
-- of this and all earlier ones.
CREATE TABLE instalment (
  order_line INTEGER NOT NULL REFERENCES order_line (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  upto INTEGER NOT NULL,
  required TEXT NOT NULL,
  promised TEXT,
  PRIMARY KEY (order_line, position)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER touch_instalment AFTER INSERT ON instalment BEGIN
  INSERT INTO plan_touch SELECT item, store, 0 FROM order_line WHERE id = new.order_line AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_instalment_gone AFTER DELETE ON instalment BEGIN
  INSERT INTO plan_touch SELECT item, store, 0 FROM order_line WHERE id = old.order_line AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;

-- Call-offs that are planned on a blanket line, and not yet made.
CREATE TABLE planned_call (
  id INTEGER PRIMARY KEY,
  line INTEGER NOT NULL REFERENCES order_line (id) ON DELETE CASCADE,
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  due TEXT NOT NULL,
  made INTEGER REFERENCES purchase_order (id) ON DELETE SET NULL
) STRICT;
CREATE INDEX planned_call_of ON planned_call (line, due);

-- Texts that stand on every order of a kind, or to a supplier.
CREATE TABLE standing_text (
  id INTEGER PRIMARY KEY,
  kind TEXT CHECK (kind IN ('one-off', 'blanket', 'call-off', 'direct')), -- null: every kind
  supplier INTEGER REFERENCES supplier (id), -- null: every supplier
  text TEXT NOT NULL
) STRICT;

CREATE TABLE order_file (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  sent INTEGER NOT NULL DEFAULT 1 CHECK (sent IN (0, 1)), -- goes out with the order
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX order_file_of ON order_file (purchase_order);

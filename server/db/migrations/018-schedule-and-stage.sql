-- Every order line has one row or more of its schedule: what comes when. Where an order stands is its stage, and words that are
-- worked out of it. Revisions have a format, and an order says which one binds and which one is proposed.
DROP TRIGGER instalment_due_changed;
DROP TRIGGER instalment_due_gone;
DROP TRIGGER instalment_due_new;
DROP TRIGGER touch_instalment;
DROP TRIGGER touch_instalment_gone;
DROP TRIGGER order_kept;
DROP TRIGGER order_line_due_changed;
DROP TRIGGER order_line_due_new;
DROP TRIGGER touch_blanket;
DROP TRIGGER touch_call;
DROP TRIGGER touch_call_changed;
DROP TRIGGER touch_call_gone;
DROP TRIGGER touch_line_added;
DROP TRIGGER touch_line_changed;
DROP TRIGGER touch_line_gone;
DROP TRIGGER touch_order;

CREATE TABLE order_schedule (
  id INTEGER PRIMARY KEY,
  order_line INTEGER NOT NULL REFERENCES order_line (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units; they add up to their line
  requested TEXT NOT NULL, -- the day that we asked for
  promised TEXT, -- the day that they last said
  received INTEGER NOT NULL DEFAULT 0 CHECK (received >= 0),
  closed_short INTEGER NOT NULL DEFAULT 0 CHECK (closed_short >= 0), -- will not come any more
  UNIQUE (order_line, position)
) STRICT;
INSERT INTO order_schedule (order_line, position, quantity, requested, promised, received, closed_short)
SELECT l.id, 1, l.quantity, l.required, l.promised, l.received, l.closed_short FROM order_line l
WHERE NOT EXISTS (SELECT 1 FROM instalment n WHERE n.order_line = l.id);
-- What came filled the earliest first.
INSERT INTO order_schedule (order_line, position, quantity, requested, promised, received, closed_short)
SELECT n.order_line, n.position, n.quantity, n.required, n.promised, max(0, min(n.quantity, l.received - (n.upto - n.quantity))),
       iif(l.closed_short > 0, n.quantity - max(0, min(n.quantity, l.received - (n.upto - n.quantity))), 0)
FROM instalment n JOIN order_line l ON l.id = n.order_line;
DROP TABLE instalment;

CREATE TABLE order_line_new (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  kind TEXT NOT NULL DEFAULT 'stocked' CHECK (kind IN ('stocked', 'not stocked', 'service', 'charge')),
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
  tax_typed INTEGER NOT NULL DEFAULT 0 CHECK (tax_typed IN (0, 1)),
  store INTEGER NOT NULL REFERENCES store (id),
  bin TEXT NOT NULL DEFAULT '',
  spread TEXT NOT NULL DEFAULT 'expense' CHECK (spread IN ('value', 'weight', 'expense')),
  account TEXT REFERENCES account (code),
  budget INTEGER REFERENCES budget (id),
  job INTEGER REFERENCES job (id),
  note TEXT NOT NULL DEFAULT '',
  own_note TEXT NOT NULL DEFAULT '',
  limits TEXT NOT NULL DEFAULT 'quantity' CHECK (limits IN ('quantity', 'value', 'both')),
  committed_value INTEGER CHECK (committed_value > 0),
  least INTEGER NOT NULL DEFAULT 0 CHECK (least >= 0),
  blanket_line INTEGER REFERENCES order_line_new (id),
  answered TEXT, -- when the supplier's word on it was taken
  -- What follows is kept from the schedule, for lists.
  received INTEGER NOT NULL DEFAULT 0,
  closed_short INTEGER NOT NULL DEFAULT 0,
  due TEXT NOT NULL DEFAULT '', -- when something of it comes next
  awaited INTEGER NOT NULL DEFAULT 1 CHECK (awaited IN (0, 1)), -- goods of it are to come: no charge, of no blanket order, not cancelled
  open INTEGER GENERATED ALWAYS AS (awaited = 1 AND received + closed_short < quantity) VIRTUAL,
  UNIQUE (purchase_order, position)
) STRICT;
INSERT INTO order_line_new (id, purchase_order, position, kind, item, sourcing, words, their_code, unit, factor, quantity, price, price_source,
  standing_discount, discount, tax_rate, tax_typed, store, bin, spread, account, budget, job, note, own_note, limits, committed_value, least,
  blanket_line, answered, received, closed_short, due, awaited)
SELECT l.id, l.purchase_order, l.position, l.kind, l.item, l.sourcing, l.words, l.their_code, l.unit, l.factor, l.quantity, l.price, l.price_source,
  l.standing_discount, l.discount, l.tax_rate, l.tax_typed, l.store, l.bin, l.spread, l.account, l.budget, l.job, l.note, l.own_note, l.limits,
  l.committed_value, l.least, l.blanket_line, iif(o.state = 'Confirmed', o.placed, NULL), l.received, l.closed_short, l.due,
  l.kind <> 'charge' AND o.kind NOT IN ('blanket', 'standing') AND o.state <> 'Cancelled'
FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order;
DROP TABLE order_line;
ALTER TABLE order_line_new RENAME TO order_line;

CREATE TABLE purchase_order_new (
  id INTEGER PRIMARY KEY,
  number TEXT UNIQUE, -- given when it is first submitted
  kind TEXT NOT NULL DEFAULT 'one-off' CHECK (kind IN ('one-off', 'blanket', 'call-off', 'direct', 'standing')),
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  store INTEGER NOT NULL REFERENCES store (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  writer INTEGER NOT NULL REFERENCES person (id),
  helper INTEGER REFERENCES person (id), -- who wrote it in the writer's name
  stage TEXT NOT NULL DEFAULT 'draft', -- core/orders/status.ts
  state TEXT NOT NULL DEFAULT 'Draft', -- the words for it, kept for lists from the stage and what came of the lines
  required TEXT NOT NULL, -- the day it should be in the store
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount BETWEEN 0 AND 10000),
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  written TEXT NOT NULL,
  submitted TEXT,
  cleared TEXT,
  placed TEXT,
  binding INTEGER, -- the revision that binds both; null until it is placed
  proposed INTEGER, -- the revision that one side proposes
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
  department INTEGER REFERENCES department (id),
  taxed INTEGER CHECK (taxed IN (0, 1)),
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
INSERT INTO purchase_order_new (id, number, kind, supplier, store, currency, writer, helper, stage, state, required, discount, note, version, written, submitted,
  cleared, placed, binding, sent_back, rate, net, home_net, total, freight, home_freight, brought, title, contact, our_reference, their_reference, terms_days,
  terms_from, early_percent, early_days, delivery_terms, delivery_place, carrier, texts, deliver_name, deliver_address, job, department, taxed,
  valid_until, held, held_by, held_at, starts, ends, closed, closed_why)
SELECT id, number, kind, supplier, store, currency, writer, helper,
  CASE state WHEN 'Draft' THEN 'draft' WHEN 'In sign-off' THEN 'in sign-off' WHEN 'Cleared' THEN 'cleared' WHEN 'Cancelled' THEN 'cancelled'
    WHEN 'All in' THEN 'closed' WHEN 'Closed short' THEN 'closed' ELSE 'placed' END,
  state, required, discount, note, version, written, submitted,
  cleared, placed, (SELECT max(v.version) FROM order_version v WHERE v.purchase_order = purchase_order.id), sent_back, rate, net, home_net, total, freight,
  home_freight, brought, title, contact, our_reference, their_reference, terms_days,
  terms_from, early_percent, early_days, delivery_terms, delivery_place, carrier, texts, deliver_name, deliver_address, job, department, taxed,
  valid_until, held, held_by, held_at, starts, ends, closed, closed_why
FROM purchase_order;
DROP TABLE purchase_order;
ALTER TABLE purchase_order_new RENAME TO purchase_order;

DROP TRIGGER version_kept;
DROP TRIGGER version_stays;
ALTER TABLE order_version RENAME TO order_revision;
ALTER TABLE order_revision RENAME COLUMN version TO revision;
ALTER TABLE order_revision ADD COLUMN format INTEGER NOT NULL DEFAULT 1; -- of the document
ALTER TABLE order_revision ADD COLUMN by TEXT NOT NULL DEFAULT 'us' CHECK (by IN ('us', 'supplier')); -- who proposed it
CREATE TRIGGER revision_kept BEFORE DELETE ON order_revision BEGIN SELECT raise(ABORT, 'revisions are never deleted'); END;
CREATE TRIGGER revision_stays BEFORE UPDATE ON order_revision BEGIN SELECT raise(ABORT, 'revisions are never changed'); END;

CREATE INDEX purchase_order_blankets ON purchase_order (supplier, ends) WHERE kind = 'blanket';
CREATE UNIQUE INDEX purchase_order_brought ON purchase_order (brought) WHERE brought IS NOT NULL;
CREATE INDEX purchase_order_by_net ON purchase_order (home_net, id);
CREATE INDEX purchase_order_by_required ON purchase_order (required, id);
CREATE INDEX purchase_order_by_state ON purchase_order (state, id);
CREATE INDEX purchase_order_by_stage ON purchase_order (stage, id);
CREATE INDEX purchase_order_by_supplier ON purchase_order (supplier, id);
CREATE INDEX purchase_order_standing ON purchase_order (id) WHERE kind = 'standing';
CREATE INDEX order_line_awaited ON order_line (purchase_order) WHERE open = 1;
CREATE INDEX order_line_budget ON order_line (budget) WHERE budget IS NOT NULL;
CREATE INDEX order_line_by_item ON order_line (item, id);
CREATE INDEX order_line_called ON order_line (blanket_line) WHERE blanket_line IS NOT NULL;
CREATE INDEX order_line_due ON order_line (purchase_order, due) WHERE open = 1;
CREATE INDEX order_line_open ON order_line (item, store) WHERE open = 1;

-- What is still to come, by day: planning, dock, jobs, requisitions and lists go by it.
CREATE VIEW open_schedule AS
SELECT s.id, s.order_line, l.purchase_order, l.item, l.store, l.factor, s.position, s.requested, s.promised, coalesce(s.promised, s.requested) AS due,
       s.quantity - s.received - s.closed_short AS quantity
FROM order_line l JOIN order_schedule s ON s.order_line = l.id
WHERE l.open = 1 AND s.received + s.closed_short < s.quantity;

-- A line keeps what its schedule comes to.
CREATE TRIGGER schedule_added AFTER INSERT ON order_schedule BEGIN
  UPDATE order_line SET (received, closed_short, due) =
    (SELECT sum(received), sum(closed_short), coalesce(min(iif(received + closed_short < quantity, coalesce(promised, requested), NULL)), max(coalesce(promised, requested)))
     FROM order_schedule WHERE order_line = new.order_line) WHERE id = new.order_line;
END;
CREATE TRIGGER schedule_changed AFTER UPDATE ON order_schedule BEGIN
  UPDATE order_line SET (received, closed_short, due) =
    (SELECT sum(received), sum(closed_short), coalesce(min(iif(received + closed_short < quantity, coalesce(promised, requested), NULL)), max(coalesce(promised, requested)))
     FROM order_schedule WHERE order_line = new.order_line) WHERE id = new.order_line;
END;
-- The last row of a line goes with it alone.
CREATE TRIGGER schedule_gone AFTER DELETE ON order_schedule WHEN EXISTS (SELECT 1 FROM order_schedule WHERE order_line = old.order_line) BEGIN
  UPDATE order_line SET (received, closed_short, due) =
    (SELECT sum(received), sum(closed_short), coalesce(min(iif(received + closed_short < quantity, coalesce(promised, requested), NULL)), max(coalesce(promised, requested)))
     FROM order_schedule WHERE order_line = old.order_line) WHERE id = old.order_line;
END;

CREATE TRIGGER order_kept BEFORE DELETE ON purchase_order WHEN old.stage <> 'draft' OR old.number IS NOT NULL
  BEGIN SELECT raise(ABORT, 'a numbered order is never deleted'); END;
CREATE TRIGGER touch_blanket AFTER UPDATE OF stage, starts, ends ON purchase_order WHEN new.kind = 'blanket' BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, 0, 0 FROM order_line WHERE purchase_order = new.id AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;
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
CREATE TRIGGER touch_line_added AFTER INSERT ON order_line WHEN new.item IS NOT NULL BEGIN INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
-- Any change of its schedule reaches the line's kept figures, and so this.
CREATE TRIGGER touch_line_changed AFTER UPDATE OF item, store, quantity, received, closed_short, due, awaited, factor ON order_line WHEN new.item IS NOT NULL BEGIN
  INSERT INTO plan_touch VALUES (new.item, new.store, 0) ON CONFLICT DO UPDATE SET n = 0;
  INSERT INTO plan_touch SELECT old.item, old.store, 0 WHERE old.item IS NOT NULL AND (old.item <> new.item OR old.store <> new.store) ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER touch_line_gone AFTER DELETE ON order_line WHEN old.item IS NOT NULL BEGIN INSERT INTO plan_touch VALUES (old.item, old.store, 0) ON CONFLICT DO UPDATE SET n = 0; END;
CREATE TRIGGER touch_order AFTER UPDATE OF stage, number ON purchase_order BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, store, 0 FROM order_line WHERE purchase_order = new.id AND item IS NOT NULL ON CONFLICT DO UPDATE SET n = 0;
END;

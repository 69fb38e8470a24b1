-- What may be kept of a delivery that is not as ordered, each value on its own: core/receiving/tolerance.ts.
CREATE TABLE tolerance (
  id INTEGER PRIMARY KEY,
  scope TEXT NOT NULL,
  -- What the scope names; null where it names none.
  supplier INTEGER REFERENCES supplier (id),
  category TEXT COLLATE NOCASE,
  item INTEGER REFERENCES item (id),
  order_line INTEGER REFERENCES order_line (id) ON DELETE CASCADE,
  over_percent INTEGER CHECK (over_percent BETWEEN 0 AND 100000), -- hundredths of a percent
  over_quantity INTEGER CHECK (over_quantity >= 0), -- purchase units
  under_percent INTEGER CHECK (under_percent BETWEEN 0 AND 10000),
  under_quantity INTEGER CHECK (under_quantity >= 0),
  early_days INTEGER CHECK (early_days BETWEEN 0 AND 730),
  late_days INTEGER CHECK (late_days BETWEEN 0 AND 730),
  price_percent INTEGER CHECK (price_percent BETWEEN 0 AND 10000),
  price_amount INTEGER CHECK (price_amount >= 0), -- home currency
  beyond TEXT,
  early TEXT
) STRICT;
-- Each place once.
CREATE UNIQUE INDEX tolerance_of ON tolerance (scope, coalesce(supplier, 0), coalesce(category, ''), coalesce(item, 0), coalesce(order_line, 0));
CREATE INDEX tolerance_of_item ON tolerance (item, scope) WHERE item IS NOT NULL;
CREATE INDEX tolerance_of_supplier ON tolerance (supplier, scope) WHERE supplier IS NOT NULL;
CREATE INDEX tolerance_of_line ON tolerance (order_line) WHERE order_line IS NOT NULL;

-- Part of what is closed short: not missed, because what came is enough within its tolerance.
ALTER TABLE order_schedule ADD COLUMN let_off INTEGER NOT NULL DEFAULT 0 CHECK (let_off >= 0 AND let_off <= closed_short);

-- Beyond what was ordered: within its tolerance, or let in by a buyer. It is part of the quantity.
ALTER TABLE receipt_line ADD COLUMN over INTEGER NOT NULL DEFAULT 0 CHECK (over BETWEEN 0 AND quantity);
CREATE INDEX receipt_line_of_receipt ON receipt_line (receipt);

-- Goods that were counted and are not taken in: not available, not ours to pay. Purchase units.
CREATE TABLE set_aside (
  id INTEGER PRIMARY KEY,
  receipt INTEGER NOT NULL REFERENCES receipt (id), -- the count with which they came
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  why TEXT NOT NULL, -- core/receiving/set-aside.ts
  ordered INTEGER NOT NULL CHECK (ordered IN (0, 1)), -- 1: within what was ordered, which waits for no more; 0: not expected, or not yet
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  days_early INTEGER NOT NULL DEFAULT 0,
  note TEXT NOT NULL DEFAULT '',
  place TEXT NOT NULL DEFAULT '', -- where it lies meanwhile
  undecided INTEGER NOT NULL CHECK (undecided BETWEEN 0 AND quantity) -- kept from the decisions
) STRICT;
CREATE INDEX set_aside_waits ON set_aside (order_line) WHERE undecided > 0;
CREATE INDEX set_aside_of_line ON set_aside (order_line);
CREATE INDEX set_aside_of_receipt ON set_aside (receipt);

-- A paper that goes back with goods.
CREATE TABLE goods_return (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  store INTEGER NOT NULL REFERENCES store (id),
  day TEXT NOT NULL,
  reason TEXT NOT NULL,
  awaits TEXT NOT NULL, -- core/receiving/set-aside.ts
  settled TEXT, -- when what was awaited had come
  settled_how TEXT NOT NULL DEFAULT '',
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX goods_return_of_order ON goods_return (purchase_order);
CREATE INDEX goods_return_awaited ON goods_return (day) WHERE settled IS NULL;

-- What somebody decided about a part of it; never changed.
CREATE TABLE set_aside_decision (
  id INTEGER PRIMARY KEY,
  set_aside INTEGER NOT NULL REFERENCES set_aside (id),
  what TEXT NOT NULL, -- core/receiving/set-aside.ts
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  reason TEXT NOT NULL DEFAULT '',
  receipt INTEGER REFERENCES receipt (id), -- by which it was taken in after all
  goods_return INTEGER REFERENCES goods_return (id), -- with which it went back
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX set_aside_decision_of ON set_aside_decision (set_aside);
CREATE INDEX set_aside_decision_returned ON set_aside_decision (goods_return) WHERE goods_return IS NOT NULL;
CREATE TRIGGER set_aside_decided AFTER INSERT ON set_aside_decision BEGIN
  UPDATE set_aside SET undecided = undecided - new.quantity WHERE id = new.set_aside;
END;
CREATE TRIGGER set_aside_decision_kept BEFORE DELETE ON set_aside_decision BEGIN SELECT raise(ABORT, 'decisions are never deleted'); END;
CREATE TRIGGER set_aside_decision_stays BEFORE UPDATE ON set_aside_decision BEGIN SELECT raise(ABORT, 'decisions are never changed'); END;
CREATE TRIGGER set_aside_kept BEFORE DELETE ON set_aside BEGIN SELECT raise(ABORT, 'what was set aside is never deleted'); END;

-- What the delivery note says came in all, and why the count says otherwise.
ALTER TABLE receipt ADD COLUMN said_lines INTEGER;
ALTER TABLE receipt ADD COLUMN said_pieces INTEGER; -- purchase units of all lines, ten-thousandths
ALTER TABLE receipt ADD COLUMN said_weight INTEGER; -- kg, ten-thousandths
ALTER TABLE receipt ADD COLUMN difference TEXT NOT NULL DEFAULT '';

-- A store may count blind: what is expected is not shown before something was counted.
ALTER TABLE store ADD COLUMN blind INTEGER NOT NULL DEFAULT 0 CHECK (blind IN (0, 1));

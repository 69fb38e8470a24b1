-- Goods of a supplier on our shelves: the agreement under which they lie there, what was registered and when, what was used,
-- what is asked for, and the statements that settle it.

-- A third kind of paper is signed.
CREATE TABLE signing_new (
  id INTEGER PRIMARY KEY,
  paper TEXT NOT NULL CHECK (paper IN ('requisition', 'order', 'blanket', 'change')),
  requisition INTEGER REFERENCES requisition (id),
  purchase_order INTEGER REFERENCES purchase_order (id),
  agreement INTEGER REFERENCES agreement (id),
  round INTEGER NOT NULL CHECK (round > 0),
  amount INTEGER NOT NULL, -- home currency, net of tax, as handed in
  writer INTEGER NOT NULL REFERENCES person (id),
  own INTEGER NOT NULL DEFAULT 0 CHECK (own IN (0, 1)), -- the writer may sign this much of their own
  rulebook INTEGER REFERENCES rulebook (version),
  ladder TEXT NOT NULL DEFAULT '',
  sum TEXT CHECK (sum IS NULL OR json_valid(sum)),
  facts TEXT CHECK (facts IS NULL OR json_valid(facts)), -- what decided the way, for trying other rules on it
  lines TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(lines)), -- as handed in, to show what differs next time
  state TEXT NOT NULL CHECK (state IN ('In sign-off', 'Cleared', 'Draft')),
  started TEXT NOT NULL,
  ended TEXT,
  reason TEXT NOT NULL DEFAULT '', -- why it came back
  carried INTEGER NOT NULL DEFAULT 0 CHECK (carried IN (0, 1)), -- it had hardly grown since it was signed, so nobody signed again
  hands TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(hands)),
  CHECK ((requisition IS NOT NULL) + (purchase_order IS NOT NULL) + (agreement IS NOT NULL) = 1),
  CHECK ((paper = 'requisition') = (requisition IS NOT NULL))
) STRICT;
INSERT INTO signing_new (id, paper, requisition, purchase_order, round, amount, writer, own, rulebook, ladder, sum, facts, lines, state, started, ended, reason, carried, hands)
SELECT id, paper, requisition, purchase_order, round, amount, writer, own, rulebook, ladder, sum, facts, lines, state, started, ended, reason, carried, hands FROM signing;
DROP TABLE signing;
ALTER TABLE signing_new RENAME TO signing;
CREATE UNIQUE INDEX signing_of_order ON signing (purchase_order, round) WHERE purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_of_requisition ON signing (requisition, round) WHERE requisition IS NOT NULL;
CREATE UNIQUE INDEX signing_of_agreement ON signing (agreement, round) WHERE agreement IS NOT NULL;
CREATE INDEX signing_by_start ON signing (started);
CREATE UNIQUE INDEX signing_open_order ON signing (purchase_order) WHERE state = 'In sign-off' AND purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_open_requisition ON signing (requisition) WHERE state = 'In sign-off' AND requisition IS NOT NULL;
CREATE UNIQUE INDEX signing_open_agreement ON signing (agreement) WHERE state = 'In sign-off' AND agreement IS NOT NULL;

CREATE TABLE agreement (
  id INTEGER PRIMARY KEY,
  number TEXT UNIQUE, -- given when it is first handed in
  changes INTEGER REFERENCES agreement (id), -- a draft that becomes the next version of that one
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  store INTEGER NOT NULL REFERENCES store (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  writer INTEGER NOT NULL REFERENCES person (id),
  state TEXT NOT NULL DEFAULT 'Draft', -- core/consigned/agreement.ts
  starts TEXT NOT NULL,
  ends TEXT NOT NULL,
  ours_after INTEGER CHECK (ours_after BETWEEN 1 AND 3650), -- days from registering until it becomes ours; null: at use alone
  first TEXT NOT NULL DEFAULT 'theirs', -- whose stock is used first
  settles TEXT NOT NULL DEFAULT 'month',
  bears TEXT NOT NULL DEFAULT 'us', -- who bears what is lost
  place TEXT NOT NULL DEFAULT '', -- what is theirs alone: nothing, bins, or the store
  bins_from TEXT NOT NULL DEFAULT '',
  bins_to TEXT NOT NULL DEFAULT '',
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  written TEXT NOT NULL,
  submitted TEXT,
  signed TEXT,
  sent_back TEXT,
  revision INTEGER NOT NULL DEFAULT 0, -- the one that binds
  ended TEXT, -- the day on which it was ended before its time
  ended_why TEXT NOT NULL DEFAULT '',
  CHECK (starts <= ends)
) STRICT;
CREATE INDEX agreement_of_supplier ON agreement (supplier, store);
CREATE INDEX agreement_of_store ON agreement (store) WHERE revision > 0;
CREATE TRIGGER agreement_kept BEFORE DELETE ON agreement WHEN old.number IS NOT NULL BEGIN SELECT raise(ABORT, 'a numbered agreement is never deleted'); END;

CREATE TABLE agreement_item (
  id INTEGER PRIMARY KEY,
  agreement INTEGER NOT NULL REFERENCES agreement (id) ON DELETE CASCADE,
  item INTEGER NOT NULL REFERENCES item (id),
  least INTEGER NOT NULL CHECK (least >= 0), -- stock units
  most INTEGER NOT NULL CHECK (most > 0 AND most >= least),
  pack INTEGER NOT NULL DEFAULT 10000 CHECK (pack > 0), -- a refill comes in whole packs of so many stock units
  refill_days INTEGER NOT NULL DEFAULT 7 CHECK (refill_days BETWEEN 0 AND 365), -- how long a refill takes, as agreed
  gone INTEGER NOT NULL DEFAULT 0 CHECK (gone IN (0, 1)), -- a later version has it no more
  UNIQUE (agreement, item)
) STRICT;
CREATE INDEX agreement_item_of ON agreement_item (item);

CREATE TABLE agreement_price (
  agreement_item INTEGER NOT NULL REFERENCES agreement_item (id) ON DELETE CASCADE,
  day TEXT NOT NULL, -- from when it holds
  price INTEGER NOT NULL CHECK (price >= 0), -- per stock unit, currency of the agreement
  PRIMARY KEY (agreement_item, day)
) STRICT, WITHOUT ROWID;

CREATE TABLE agreement_revision (
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  revision INTEGER NOT NULL,
  at TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (agreement, revision)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER agreement_revision_kept BEFORE DELETE ON agreement_revision BEGIN SELECT raise(ABORT, 'revisions are never deleted'); END;
CREATE TRIGGER agreement_revision_stays BEFORE UPDATE ON agreement_revision BEGIN SELECT raise(ABORT, 'revisions are never changed'); END;

CREATE TABLE agreement_link (
  id INTEGER PRIMARY KEY,
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  link TEXT NOT NULL UNIQUE, -- its hash
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  ended TEXT
) STRICT;
CREATE INDEX agreement_link_of ON agreement_link (agreement);

-- What they are asked to bring: never a purchase.
CREATE TABLE refill (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  wanted TEXT NOT NULL, -- the day that we asked for
  promised TEXT, -- the day that they said
  said TEXT NOT NULL DEFAULT '', -- their remark
  said_at TEXT,
  day TEXT NOT NULL,
  ended TEXT, -- given up: nothing more of it comes
  ended_why TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX refill_of ON refill (agreement, id);
CREATE INDEX refill_open ON refill (wanted) WHERE ended IS NULL;
CREATE TRIGGER refill_kept BEFORE DELETE ON refill BEGIN SELECT raise(ABORT, 'a refill is never deleted'); END;
CREATE TABLE refill_line (
  id INTEGER PRIMARY KEY,
  refill INTEGER NOT NULL REFERENCES refill (id),
  agreement_item INTEGER NOT NULL REFERENCES agreement_item (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- stock units
  came INTEGER NOT NULL DEFAULT 0 CHECK (came >= 0),
  open INTEGER NOT NULL DEFAULT 1 CHECK (open IN (0, 1)), -- something of it is still to come
  UNIQUE (refill, agreement_item)
) STRICT;
CREATE INDEX refill_line_open ON refill_line (agreement_item) WHERE open = 1;

-- What of theirs came, and what was found of it.
CREATE TABLE consigned_delivery (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  note TEXT NOT NULL, -- the number of their delivery note
  day TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX consigned_delivery_of ON consigned_delivery (agreement, id);
CREATE INDEX consigned_delivery_note ON consigned_delivery (agreement, note COLLATE NOCASE) WHERE note <> '';
CREATE TRIGGER consigned_delivery_kept BEFORE DELETE ON consigned_delivery BEGIN SELECT raise(ABORT, 'deliveries are never deleted'); END;
CREATE TRIGGER consigned_delivery_stays BEFORE UPDATE ON consigned_delivery BEGIN SELECT raise(ABORT, 'deliveries are never changed'); END;

-- Their stock by age: what came at once of an item and lot, and what is left of it.
CREATE TABLE consigned_layer (
  id INTEGER PRIMARY KEY,
  agreement_item INTEGER NOT NULL REFERENCES agreement_item (id),
  delivery INTEGER REFERENCES consigned_delivery (id), -- null: found by a count
  item INTEGER NOT NULL,
  store INTEGER NOT NULL,
  owner INTEGER NOT NULL REFERENCES supplier (id),
  lot INTEGER REFERENCES lot (id),
  day TEXT NOT NULL, -- when it was registered
  quantity INTEGER NOT NULL CHECK (quantity > 0),
  rest INTEGER NOT NULL CHECK (rest BETWEEN 0 AND quantity),
  ours_on TEXT -- the day on which what is left becomes ours
) STRICT;
CREATE INDEX consigned_layer_there ON consigned_layer (item, store, owner, day, id) WHERE rest > 0;
CREATE INDEX consigned_layer_ripe ON consigned_layer (ours_on) WHERE rest > 0 AND ours_on IS NOT NULL;
CREATE INDEX consigned_layer_of ON consigned_layer (agreement_item, day);
CREATE TRIGGER consigned_layer_kept BEFORE DELETE ON consigned_layer BEGIN SELECT raise(ABORT, 'layers are never deleted'); END;

-- What leaves their stock and is paid for, and what of that was taken back. Signed: a taking back is below zero.
CREATE TABLE consigned_use (
  id INTEGER PRIMARY KEY,
  agreement_item INTEGER NOT NULL REFERENCES agreement_item (id),
  day TEXT NOT NULL,
  what TEXT NOT NULL, -- core/consigned/use.ts
  job INTEGER REFERENCES job (id),
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  quantity INTEGER NOT NULL CHECK (quantity <> 0), -- stock units
  price INTEGER NOT NULL, -- per stock unit
  net INTEGER NOT NULL, -- currency of the agreement, minor units
  home_net INTEGER NOT NULL, -- as the receipt was valued
  tax_rate INTEGER NOT NULL,
  reverses INTEGER REFERENCES consigned_use (id),
  paper INTEGER REFERENCES stock_paper (id),
  statement INTEGER REFERENCES use_statement (id),
  note TEXT NOT NULL DEFAULT '',
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX consigned_use_of ON consigned_use (agreement_item, day);
CREATE INDEX consigned_use_of_job ON consigned_use (job) WHERE job IS NOT NULL;
CREATE INDEX consigned_use_back ON consigned_use (reverses) WHERE reverses IS NOT NULL;
CREATE INDEX consigned_use_of_statement ON consigned_use (statement) WHERE statement IS NOT NULL;
CREATE INDEX consigned_use_unsettled ON consigned_use (agreement_item, day) WHERE statement IS NULL;
CREATE INDEX consigned_use_of_line ON consigned_use (order_line);
CREATE TRIGGER consigned_use_kept BEFORE DELETE ON consigned_use BEGIN SELECT raise(ABORT, 'uses are never deleted'); END;
CREATE TRIGGER consigned_use_stays BEFORE UPDATE OF agreement_item, day, what, job, order_line, quantity, price, net, home_net, tax_rate, reverses, paper, note, person, at ON consigned_use
  BEGIN SELECT raise(ABORT, 'uses are never changed'); END;

-- From which layers a use, a return or a loss took, or what it gave back to them.
CREATE TABLE consigned_take (
  id INTEGER PRIMARY KEY,
  layer INTEGER NOT NULL REFERENCES consigned_layer (id),
  what TEXT NOT NULL,
  quantity INTEGER NOT NULL CHECK (quantity <> 0), -- above zero: taken
  used INTEGER REFERENCES consigned_use (id),
  paper INTEGER REFERENCES stock_paper (id),
  day TEXT NOT NULL
) STRICT;
CREATE INDEX consigned_take_of ON consigned_take (layer);
CREATE INDEX consigned_take_used ON consigned_take (used) WHERE used IS NOT NULL;
CREATE INDEX consigned_take_paper ON consigned_take (paper) WHERE paper IS NOT NULL;
CREATE TRIGGER consigned_take_takes AFTER INSERT ON consigned_take BEGIN
  UPDATE consigned_layer SET rest = rest - new.quantity WHERE id = new.layer;
END;
CREATE TRIGGER consigned_take_kept BEFORE DELETE ON consigned_take BEGIN SELECT raise(ABORT, 'what was taken is never deleted'); END;
CREATE TRIGGER consigned_take_stays BEFORE UPDATE ON consigned_take BEGIN SELECT raise(ABORT, 'what was taken is never changed'); END;

-- More days, asked for what would become ours.
CREATE TABLE longer (
  id INTEGER PRIMARY KEY,
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  layer INTEGER NOT NULL REFERENCES consigned_layer (id),
  quantity INTEGER NOT NULL, -- what was left when it was asked
  days INTEGER NOT NULL CHECK (days BETWEEN 1 AND 365),
  asked TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  answer TEXT CHECK (answer IN ('yes', 'no')),
  answered TEXT,
  said TEXT NOT NULL DEFAULT '',
  by TEXT NOT NULL DEFAULT '' -- who answered: over the link, or as written down
) STRICT;
CREATE INDEX longer_of ON longer (agreement, id);
CREATE UNIQUE INDEX longer_open ON longer (layer) WHERE answer IS NULL;

-- What was used in a period: what the supplier agrees to, and what is paid.
CREATE TABLE use_statement (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  agreement INTEGER NOT NULL REFERENCES agreement (id),
  since TEXT NOT NULL, -- the first day of it
  until TEXT NOT NULL, -- the last
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  total INTEGER NOT NULL,
  home_net INTEGER NOT NULL,
  state TEXT NOT NULL, -- core/consigned/statement.ts
  said TEXT NOT NULL DEFAULT '', -- what the supplier says against it
  agreed_by TEXT NOT NULL DEFAULT '',
  agreed TEXT,
  sent TEXT,
  version INTEGER NOT NULL DEFAULT 1,
  document TEXT NOT NULL CHECK (json_valid(document)),
  day TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX use_statement_of ON use_statement (agreement, id);
CREATE INDEX use_statement_open ON use_statement (state) WHERE state IN ('Made', 'Sent', 'Questioned');
CREATE TRIGGER use_statement_kept BEFORE DELETE ON use_statement BEGIN SELECT raise(ABORT, 'statements are never deleted'); END;

-- What is owed to a supplier, from a statement that they agreed to.
CREATE TABLE payable (
  id INTEGER PRIMARY KEY,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  statement INTEGER UNIQUE REFERENCES use_statement (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  total INTEGER NOT NULL,
  home_total INTEGER NOT NULL, -- at the rate of its day
  due TEXT NOT NULL,
  day TEXT NOT NULL,
  entry INTEGER NOT NULL REFERENCES posting_entry (id)
) STRICT;
CREATE INDEX payable_of_supplier ON payable (supplier, due);
CREATE TRIGGER payable_kept BEFORE DELETE ON payable BEGIN SELECT raise(ABORT, 'payables are never deleted'); END;
CREATE TRIGGER payable_stays BEFORE UPDATE ON payable BEGIN SELECT raise(ABORT, 'payables are never changed'); END;

-- An order that a use wrote names the agreement under which the goods lay here.
ALTER TABLE purchase_order ADD COLUMN agreement INTEGER REFERENCES agreement (id);
CREATE INDEX purchase_order_of_agreement ON purchase_order (agreement) WHERE agreement IS NOT NULL;
ALTER TABLE mail ADD COLUMN agreement INTEGER REFERENCES agreement (id);
ALTER TABLE stock_paper ADD COLUMN supplier INTEGER REFERENCES supplier (id); -- whose goods it is about; null: ours

-- Is what suppliers have on our shelves available to what needs it?
ALTER TABLE company ADD COLUMN counts_theirs INTEGER NOT NULL DEFAULT 1 CHECK (counts_theirs IN (0, 1));

-- A count says whose goods it counts.
ALTER TABLE stock_count_line ADD COLUMN owner INTEGER REFERENCES supplier (id); -- null: ours
DROP INDEX stock_count_line_of;
CREATE UNIQUE INDEX stock_count_line_of ON stock_count_line (stock_count, item, bin, coalesce(lot, 0), coalesce(owner, 0));
-- What a job uses is charged to its budget.
ALTER TABLE job ADD COLUMN budget INTEGER REFERENCES budget (id);
CREATE TRIGGER touch_agreement AFTER UPDATE OF state, starts, ends, revision ON agreement BEGIN
  INSERT INTO plan_touch SELECT DISTINCT item, new.store, 0 FROM agreement_item WHERE agreement = new.id ON CONFLICT DO UPDATE SET n = 0;
END;

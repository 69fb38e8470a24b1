-- What suppliers bill: invoices with their lines and taxes, what is held against them and who let it pass, what is claimed,
-- and what is owed since they matched.

CREATE TABLE invoice (
  id INTEGER PRIMARY KEY,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  kind TEXT NOT NULL DEFAULT 'invoice' CHECK (kind IN ('invoice', 'credit note')), -- what a credit note comes to is below zero
  number TEXT NOT NULL, -- theirs
  plain TEXT NOT NULL, -- the same as it is compared: core/settling/invoice.ts
  day TEXT NOT NULL, -- that stands on it
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  rate INTEGER NOT NULL CHECK (rate > 0), -- home currency for one, in millionths, of its day
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  total INTEGER NOT NULL,
  home_total INTEGER NOT NULL,
  state TEXT NOT NULL, -- core/settling/invoice.ts
  turn TEXT NOT NULL DEFAULT '', -- whose turn it is while it is held, several by commas; kept from what is held
  since TEXT NOT NULL, -- since when it stands so
  due TEXT NOT NULL,
  early_percent INTEGER NOT NULL DEFAULT 0,
  early_by TEXT,
  note TEXT NOT NULL DEFAULT '',
  why TEXT NOT NULL DEFAULT '', -- it was sent back or taken off
  entry INTEGER REFERENCES posting_entry (id), -- by which it matched
  matched TEXT,
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER REFERENCES person (id), -- null: it came by itself
  at TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX invoice_once ON invoice (supplier, plain) WHERE state NOT IN ('Sent back', 'Taken off');
CREATE INDEX invoice_held ON invoice (since) WHERE state = 'Held';
CREATE INDEX invoice_of_supplier ON invoice (supplier, day);
CREATE TRIGGER invoice_kept BEFORE DELETE ON invoice BEGIN SELECT raise(ABORT, 'invoices are never deleted'); END;

CREATE TABLE invoice_line (
  id INTEGER PRIMARY KEY,
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  position INTEGER NOT NULL,
  order_line INTEGER REFERENCES order_line (id), -- null: no order has it
  words TEXT NOT NULL DEFAULT '',
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units
  price INTEGER NOT NULL CHECK (price >= 0), -- for one, before discounts
  standing INTEGER NOT NULL DEFAULT 0,
  discount INTEGER NOT NULL DEFAULT 0,
  net INTEGER NOT NULL,
  tax_rate INTEGER NOT NULL,
  account TEXT REFERENCES account (code), -- of what no order has
  met INTEGER, -- of what was received and not invoiced, home currency; null until it matched
  UNIQUE (invoice, position)
) STRICT;
CREATE INDEX invoice_line_of ON invoice_line (order_line) WHERE order_line IS NOT NULL;
CREATE TRIGGER invoice_line_kept BEFORE DELETE ON invoice_line BEGIN SELECT raise(ABORT, 'invoices are never deleted'); END;
CREATE TRIGGER invoice_line_stays BEFORE UPDATE OF invoice, position, order_line, quantity, price, standing, discount, net, tax_rate ON invoice_line
BEGIN SELECT raise(ABORT, 'what an invoice says is never changed'); END;

CREATE TABLE invoice_tax (
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  rate INTEGER NOT NULL,
  base INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  allowance INTEGER NOT NULL DEFAULT 0, -- taken off the whole, of what is taxed so
  PRIMARY KEY (invoice, rate)
) STRICT, WITHOUT ROWID;

-- The file that it came in, and what belongs to it.
CREATE TABLE invoice_file (
  id INTEGER PRIMARY KEY,
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  person INTEGER REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX invoice_file_of ON invoice_file (invoice);

-- Who let what pass that was held, and why.
CREATE TABLE invoice_pass (
  id INTEGER PRIMARY KEY,
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  reason TEXT NOT NULL, -- core/settling/match.ts
  position INTEGER, -- null: the whole paper
  beyond INTEGER NOT NULL, -- so much of it
  claim INTEGER REFERENCES claim (id), -- where it is asked back
  said TEXT NOT NULL DEFAULT '',
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX invoice_pass_of ON invoice_pass (invoice);

-- What we ask back, until it is credited or dropped.
CREATE TABLE claim (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  invoice_line INTEGER REFERENCES invoice_line (id),
  reason TEXT NOT NULL, -- core/settling/match.ts
  quantity INTEGER NOT NULL DEFAULT 0, -- purchase units, where goods are missing
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  state TEXT NOT NULL, -- core/settling/claim.ts
  home INTEGER NOT NULL DEFAULT 0, -- as it was booked, with tax
  said TEXT NOT NULL DEFAULT '',
  ended TEXT,
  how TEXT NOT NULL DEFAULT '',
  credit INTEGER REFERENCES invoice (id), -- the credit note that met it
  day TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX claim_open ON claim (supplier) WHERE state = 'Open';
CREATE INDEX claim_of_invoice ON claim (invoice);
CREATE TRIGGER claim_kept BEFORE DELETE ON claim BEGIN SELECT raise(ABORT, 'claims are never deleted'); END;

-- What of an order line is invoiced: by invoices that matched, and by use statements that were agreed to.
ALTER TABLE order_line ADD COLUMN invoiced INTEGER NOT NULL DEFAULT 0;
UPDATE order_line SET invoiced = (SELECT coalesce(sum(u.quantity), 0) FROM consigned_use u JOIN use_statement s ON s.id = u.statement AND s.state = 'Agreed' WHERE u.order_line = order_line.id)
WHERE id IN (SELECT order_line FROM consigned_use WHERE statement IS NOT NULL);

-- What is owed comes from a statement or from an invoice; it ends where the invoice is taken off.
CREATE TABLE payable_new (
  id INTEGER PRIMARY KEY,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  statement INTEGER UNIQUE REFERENCES use_statement (id),
  invoice INTEGER UNIQUE REFERENCES invoice (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  total INTEGER NOT NULL,
  home_total INTEGER NOT NULL, -- at the rate of its day
  due TEXT NOT NULL,
  day TEXT NOT NULL,
  ended TEXT, -- the day from which it is owed no more, though nobody paid it
  entry INTEGER NOT NULL REFERENCES posting_entry (id),
  CHECK ((statement IS NULL) <> (invoice IS NULL))
) STRICT;
INSERT INTO payable_new (id, supplier, statement, currency, net, tax, total, home_total, due, day, entry)
SELECT id, supplier, statement, currency, net, tax, total, home_total, due, day, entry FROM payable;
DROP TABLE payable;
ALTER TABLE payable_new RENAME TO payable;
CREATE INDEX payable_of_supplier ON payable (supplier, due);
CREATE INDEX payable_by_due ON payable (due);
CREATE TRIGGER payable_kept BEFORE DELETE ON payable BEGIN SELECT raise(ABORT, 'payables are never deleted'); END;
CREATE TRIGGER payable_stays BEFORE UPDATE OF id, supplier, statement, invoice, currency, net, tax, total, home_total, due, day, entry ON payable
BEGIN SELECT raise(ABORT, 'payables are never changed'); END;

-- What was paid, of which papers; taken back where it did not go out.
CREATE TABLE payment (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  day TEXT NOT NULL,
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  total INTEGER NOT NULL CHECK (total > 0),
  home INTEGER NOT NULL, -- at the rate of its day
  entry INTEGER NOT NULL REFERENCES posting_entry (id),
  taken_back TEXT, -- the day
  why TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX payment_of_supplier ON payment (supplier);
CREATE TRIGGER payment_kept BEFORE DELETE ON payment BEGIN SELECT raise(ABORT, 'payments are never deleted'); END;
CREATE TABLE payment_part (
  payment INTEGER NOT NULL REFERENCES payment (id),
  payable INTEGER NOT NULL REFERENCES payable (id),
  minor INTEGER NOT NULL, -- below zero for a credit that is set off
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount >= 0),
  booked INTEGER NOT NULL, -- home currency
  PRIMARY KEY (payment, payable)
) STRICT, WITHOUT ROWID;
CREATE INDEX payment_part_of ON payment_part (payable);
CREATE TRIGGER payment_part_stays BEFORE UPDATE ON payment_part BEGIN SELECT raise(ABORT, 'payments are never changed'); END;
CREATE TRIGGER payment_part_kept BEFORE DELETE ON payment_part BEGIN SELECT raise(ABORT, 'payments are never deleted'); END;
-- A payable with what is settled of it, and what that was booked at.
CREATE VIEW payable_now AS
SELECT y.id, y.invoice, y.statement, y.total, y.home_total, y.ended,
       coalesce((SELECT sum(p.minor + p.discount) FROM payment_part p JOIN payment m ON m.id = p.payment WHERE p.payable = y.id AND m.taken_back IS NULL), 0) AS settled,
       coalesce((SELECT sum(p.booked) FROM payment_part p JOIN payment m ON m.id = p.payment WHERE p.payable = y.id AND m.taken_back IS NULL), 0) AS home_settled
FROM payable y;

ALTER TABLE mail ADD COLUMN invoice INTEGER REFERENCES invoice (id);

-- What is billed takes of a budget, too.
CREATE TRIGGER budget_touch_invoiced AFTER UPDATE OF invoiced ON order_line WHEN new.budget IS NOT NULL BEGIN
  INSERT INTO budget_touch VALUES ('o', new.id) ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_claim AFTER UPDATE OF state ON claim BEGIN
  INSERT INTO budget_touch SELECT 'o', d.id FROM invoice_line l JOIN order_line d ON d.id = l.order_line WHERE l.id = new.invoice_line AND d.budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE INDEX claim_of_line ON claim (invoice_line) WHERE invoice_line IS NOT NULL;

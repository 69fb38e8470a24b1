-- A fourth kind of paper is signed: what of an invoice is beyond what whoever looks at it may accept.
CREATE TABLE signing_new (
  id INTEGER PRIMARY KEY,
  paper TEXT NOT NULL CHECK (paper IN ('requisition', 'order', 'blanket', 'change')),
  requisition INTEGER REFERENCES requisition (id),
  purchase_order INTEGER REFERENCES purchase_order (id),
  agreement INTEGER REFERENCES agreement (id),
  invoice INTEGER REFERENCES invoice (id),
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
  CHECK ((requisition IS NOT NULL) + (purchase_order IS NOT NULL) + (agreement IS NOT NULL) + (invoice IS NOT NULL) = 1),
  CHECK ((paper = 'requisition') = (requisition IS NOT NULL))
) STRICT;
INSERT INTO signing_new (id, paper, requisition, purchase_order, agreement, round, amount, writer, own, rulebook, ladder, sum, facts, lines, state, started, ended, reason, carried, hands)
SELECT id, paper, requisition, purchase_order, agreement, round, amount, writer, own, rulebook, ladder, sum, facts, lines, state, started, ended, reason, carried, hands FROM signing;
DROP TABLE signing;
ALTER TABLE signing_new RENAME TO signing;
CREATE UNIQUE INDEX signing_of_order ON signing (purchase_order, round) WHERE purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_of_requisition ON signing (requisition, round) WHERE requisition IS NOT NULL;
CREATE UNIQUE INDEX signing_of_agreement ON signing (agreement, round) WHERE agreement IS NOT NULL;
CREATE UNIQUE INDEX signing_of_invoice ON signing (invoice, round) WHERE invoice IS NOT NULL;
CREATE INDEX signing_by_start ON signing (started);
CREATE UNIQUE INDEX signing_open_order ON signing (purchase_order) WHERE state = 'In sign-off' AND purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_open_requisition ON signing (requisition) WHERE state = 'In sign-off' AND requisition IS NOT NULL;
CREATE UNIQUE INDEX signing_open_agreement ON signing (agreement) WHERE state = 'In sign-off' AND agreement IS NOT NULL;
CREATE UNIQUE INDEX signing_open_invoice ON signing (invoice) WHERE state = 'In sign-off' AND invoice IS NOT NULL;

-- What of an invoice was handed up; what becomes of it stands with its signatures.
CREATE TABLE invoice_asked (
  invoice INTEGER NOT NULL REFERENCES invoice (id),
  reason TEXT NOT NULL, -- core/settling/match.ts
  position INTEGER NOT NULL DEFAULT 0, -- 0: the whole paper
  beyond INTEGER NOT NULL, -- minor units of the invoice's currency
  said TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (invoice, reason, position)
) STRICT, WITHOUT ROWID;

-- Suppliers for whom we write the invoice when their goods come.
ALTER TABLE supplier ADD COLUMN self_bills INTEGER NOT NULL DEFAULT 0 CHECK (self_bills IN (0, 1));
ALTER TABLE invoice ADD COLUMN ours INTEGER NOT NULL DEFAULT 0 CHECK (ours IN (0, 1)); -- we wrote it for them

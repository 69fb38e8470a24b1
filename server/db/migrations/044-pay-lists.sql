-- What is paid together by the bank: accounts that money goes to, lists with their transfers, and who released them.

ALTER TABLE supplier ADD COLUMN iban TEXT NOT NULL DEFAULT ''; -- ISO 13616, without spaces
ALTER TABLE supplier ADD COLUMN bic TEXT NOT NULL DEFAULT ''; -- ISO 9362
ALTER TABLE company ADD COLUMN iban TEXT NOT NULL DEFAULT '';
ALTER TABLE company ADD COLUMN bic TEXT NOT NULL DEFAULT '';
ALTER TABLE company ADD COLUMN release_from INTEGER NOT NULL DEFAULT 0 CHECK (release_from >= 0); -- home currency: a pay list of more is released by somebody else than its writer

CREATE TABLE pay_list (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  day TEXT NOT NULL, -- on which the bank is to pay
  state TEXT NOT NULL, -- core/settling/pay-list.ts
  home INTEGER NOT NULL, -- what it comes to at the rates of the day it was written
  iban TEXT NOT NULL, -- ours, as it stood
  bic TEXT NOT NULL,
  released_by INTEGER REFERENCES person (id),
  released TEXT,
  sent TEXT, -- when the bank was told to pay it
  handed TEXT, -- when its file was laid into the bank's folder: once
  version INTEGER NOT NULL DEFAULT 1,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE TRIGGER pay_list_kept BEFORE DELETE ON pay_list BEGIN SELECT raise(ABORT, 'pay lists are never deleted'); END;

CREATE TABLE pay_line (
  id INTEGER PRIMARY KEY,
  list INTEGER NOT NULL REFERENCES pay_list (id),
  position INTEGER NOT NULL,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  total INTEGER NOT NULL CHECK (total > 0),
  name TEXT NOT NULL, -- who gets it, and where, as it stood
  iban TEXT NOT NULL,
  bic TEXT NOT NULL,
  state TEXT NOT NULL, -- core/settling/pay-list.ts
  why TEXT NOT NULL DEFAULT '',
  payment INTEGER REFERENCES payment (id),
  UNIQUE (list, position)
) STRICT;
CREATE TRIGGER pay_line_kept BEFORE DELETE ON pay_line BEGIN SELECT raise(ABORT, 'pay lists are never deleted'); END;
CREATE TRIGGER pay_line_stays BEFORE UPDATE OF list, position, supplier, currency, total, name, iban, bic ON pay_line
BEGIN SELECT raise(ABORT, 'what a pay list pays is never changed'); END;

CREATE TABLE pay_line_part (
  line INTEGER NOT NULL REFERENCES pay_line (id),
  payable INTEGER NOT NULL REFERENCES payable (id),
  minor INTEGER NOT NULL, -- below zero for a credit that is set off
  discount INTEGER NOT NULL DEFAULT 0 CHECK (discount >= 0),
  PRIMARY KEY (line, payable)
) STRICT, WITHOUT ROWID;
CREATE INDEX pay_line_part_of ON pay_line_part (payable);
CREATE TRIGGER pay_line_part_stays BEFORE UPDATE ON pay_line_part BEGIN SELECT raise(ABORT, 'what a pay list pays is never changed'); END;
CREATE TRIGGER pay_line_part_kept BEFORE DELETE ON pay_line_part BEGIN SELECT raise(ABORT, 'pay lists are never deleted'); END;

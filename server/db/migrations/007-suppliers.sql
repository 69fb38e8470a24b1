-- The supplier's record in full: people by what they do, addresses by what they are for, files and notes.
ALTER TABLE supplier ADD COLUMN tax_number TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier ADD COLUMN notes TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier ADD COLUMN return_address TEXT NOT NULL DEFAULT ''; -- where goods go back to; empty: their address
ALTER TABLE supplier ADD COLUMN pay_address TEXT NOT NULL DEFAULT ''; -- who is paid; empty: their address
ALTER TABLE supplier_contact ADD COLUMN title TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier_contact ADD COLUMN phone TEXT NOT NULL DEFAULT '';
ALTER TABLE supplier_contact ADD COLUMN for_quotes INTEGER NOT NULL DEFAULT 0 CHECK (for_quotes IN (0, 1));
ALTER TABLE supplier_contact ADD COLUMN for_invoices INTEGER NOT NULL DEFAULT 0 CHECK (for_invoices IN (0, 1));
UPDATE supplier_contact SET for_quotes = for_orders;
CREATE TABLE supplier_file (
  id INTEGER PRIMARY KEY,
  supplier INTEGER NOT NULL REFERENCES supplier (id),
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX supplier_file_of ON supplier_file (supplier);

-- Private links through which a supplier reads an order as it stands, without an account.
CREATE TABLE order_link (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  link TEXT NOT NULL UNIQUE, -- SHA-256 of what the address holds
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  opened TEXT, -- when it was first looked at
  ended TEXT
) STRICT;
CREATE INDEX order_link_of ON order_link (purchase_order);

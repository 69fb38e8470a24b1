-- What we ask to be different of an order that its supplier has: one for each time. What has to be signed first waits here.
CREATE TABLE order_change (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  reason TEXT NOT NULL,
  lines TEXT NOT NULL CHECK (json_valid(lines)), -- JSON of core/orders/changes.ts
  state TEXT NOT NULL CHECK (state IN ('in sign-off', 'made', 'sent back', 'given up')),
  revision INTEGER -- that it made
) STRICT;
CREATE INDEX order_change_of ON order_change (purchase_order, id);
CREATE UNIQUE INDEX order_change_open ON order_change (purchase_order) WHERE state = 'in sign-off';
CREATE TRIGGER order_change_kept BEFORE DELETE ON order_change BEGIN SELECT raise(ABORT, 'changes are never deleted'); END;
CREATE TRIGGER order_change_stays BEFORE UPDATE OF purchase_order, at, person, reason, lines ON order_change BEGIN SELECT raise(ABORT, 'changes are never rewritten'); END;

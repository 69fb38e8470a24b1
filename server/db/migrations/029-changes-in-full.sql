-- Lines that a change of a placed order adds: core/orders/changes.ts.
ALTER TABLE order_change ADD COLUMN added TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(added));

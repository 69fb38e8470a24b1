-- Lines that a change of a placed order adds: core/orders/changes.ts.
ALTER TABLE order_change ADD COLUMN added TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(added));

-- What came with an answer that was written down: their letter, or a note of the call.
ALTER TABLE answer ADD COLUMN file INTEGER REFERENCES order_file (id);

-- What an invoice bills that no order has takes of a budget, too. Commitments are worked out again, all of them.
ALTER TABLE invoice_line ADD COLUMN budget INTEGER REFERENCES budget (id); -- of what no order has

DROP TABLE commitment;
CREATE TABLE commitment (
  budget INTEGER NOT NULL REFERENCES budget (id), -- the period
  figure TEXT NOT NULL, -- core/budgets/budget.ts
  minor INTEGER NOT NULL, -- home currency
  order_line INTEGER REFERENCES order_line (id) ON DELETE CASCADE,
  requisition_line INTEGER REFERENCES requisition_line (id) ON DELETE CASCADE,
  invoice_line INTEGER REFERENCES invoice_line (id),
  CHECK ((order_line IS NOT NULL) + (requisition_line IS NOT NULL) + (invoice_line IS NOT NULL) = 1)
) STRICT;
CREATE INDEX commitment_of_order ON commitment (order_line) WHERE order_line IS NOT NULL;
CREATE INDEX commitment_of_requisition ON commitment (requisition_line) WHERE requisition_line IS NOT NULL;
CREATE INDEX commitment_of_invoice ON commitment (invoice_line) WHERE invoice_line IS NOT NULL;
CREATE INDEX commitment_by_budget ON commitment (budget, figure);
DELETE FROM budget_total;
CREATE TRIGGER commitment_added AFTER INSERT ON commitment BEGIN
  INSERT INTO budget_total VALUES (new.budget, new.figure, new.minor) ON CONFLICT DO UPDATE SET minor = minor + excluded.minor;
END;
CREATE TRIGGER commitment_gone AFTER DELETE ON commitment BEGIN
  UPDATE budget_total SET minor = minor - old.minor WHERE budget = old.budget AND figure = old.figure;
END;

DROP TABLE budget_touch;
CREATE TABLE budget_touch (
  what TEXT NOT NULL CHECK (what IN ('o', 'r', 'i', 'all')), -- a line of an order, of a requisition, of an invoice
  line INTEGER NOT NULL,
  PRIMARY KEY (what, line)
) STRICT, WITHOUT ROWID;
INSERT INTO budget_touch VALUES ('all', 0);
CREATE INDEX invoice_line_budget ON invoice_line (budget) WHERE budget IS NOT NULL;
CREATE TRIGGER budget_touch_invoice AFTER UPDATE OF state ON invoice BEGIN
  INSERT INTO budget_touch SELECT 'i', id FROM invoice_line WHERE invoice = new.id AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_other_claim AFTER INSERT ON claim BEGIN
  INSERT INTO budget_touch SELECT 'i', id FROM invoice_line WHERE id = new.invoice_line AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_other_claim_ends AFTER UPDATE OF state ON claim BEGIN
  INSERT INTO budget_touch SELECT 'i', id FROM invoice_line WHERE id = new.invoice_line AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;

-- What papers take of budgets, kept with each act: nobody adds up the history to see what is left.
CREATE TABLE commitment (
  budget INTEGER NOT NULL REFERENCES budget (id), -- the period
  figure TEXT NOT NULL, -- core/budgets/budget.ts
  minor INTEGER NOT NULL, -- home currency
  order_line INTEGER REFERENCES order_line (id) ON DELETE CASCADE,
  requisition_line INTEGER REFERENCES requisition_line (id) ON DELETE CASCADE,
  CHECK ((order_line IS NULL) <> (requisition_line IS NULL))
) STRICT;
CREATE INDEX commitment_of_order ON commitment (order_line) WHERE order_line IS NOT NULL;
CREATE INDEX commitment_of_requisition ON commitment (requisition_line) WHERE requisition_line IS NOT NULL;
CREATE INDEX commitment_by_budget ON commitment (budget, figure);

CREATE TABLE budget_total (
  budget INTEGER NOT NULL REFERENCES budget (id) ON DELETE CASCADE,
  figure TEXT NOT NULL,
  minor INTEGER NOT NULL,
  PRIMARY KEY (budget, figure)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER commitment_added AFTER INSERT ON commitment BEGIN
  INSERT INTO budget_total VALUES (new.budget, new.figure, new.minor) ON CONFLICT DO UPDATE SET minor = minor + excluded.minor;
END;
CREATE TRIGGER commitment_gone AFTER DELETE ON commitment BEGIN
  UPDATE budget_total SET minor = minor - old.minor WHERE budget = old.budget AND figure = old.figure;
END;

-- Lines whose commitments are to be worked out again before the act ends: of an order ('o'), of a requisition ('r'), or all.
CREATE TABLE budget_touch (
  what TEXT NOT NULL CHECK (what IN ('o', 'r', 'all')),
  line INTEGER NOT NULL,
  PRIMARY KEY (what, line)
) STRICT, WITHOUT ROWID;
INSERT INTO budget_touch VALUES ('all', 0);

CREATE TRIGGER budget_touch_budget AFTER UPDATE ON budget BEGIN INSERT INTO budget_touch VALUES ('all', 0) ON CONFLICT DO NOTHING; END;
CREATE TRIGGER budget_touch_new_budget AFTER INSERT ON budget BEGIN INSERT INTO budget_touch VALUES ('all', 0) ON CONFLICT DO NOTHING; END;
CREATE TRIGGER budget_touch_company AFTER UPDATE OF budget_by, currency ON company BEGIN INSERT INTO budget_touch VALUES ('all', 0) ON CONFLICT DO NOTHING; END;

-- A draft is no commitment: while it is written, nothing is touched.
CREATE TRIGGER budget_touch_line AFTER UPDATE OF budget, quantity, price, standing_discount, discount, received, closed_short, due ON order_line
  WHEN (new.budget IS NOT NULL OR old.budget IS NOT NULL) AND (SELECT stage FROM purchase_order WHERE id = new.purchase_order) <> 'draft' BEGIN
  INSERT INTO budget_touch VALUES ('o', new.id) ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_new_line AFTER INSERT ON order_line
  WHEN new.budget IS NOT NULL AND (SELECT stage FROM purchase_order WHERE id = new.purchase_order) <> 'draft' BEGIN
  INSERT INTO budget_touch VALUES ('o', new.id) ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_order AFTER UPDATE OF stage, kind, discount, rate, currency, placed, submitted ON purchase_order
  WHEN new.stage <> 'draft' OR old.stage <> 'draft' BEGIN
  INSERT INTO budget_touch SELECT 'o', id FROM order_line WHERE purchase_order = new.id AND budget IS NOT NULL ON CONFLICT DO NOTHING;
  INSERT INTO budget_touch SELECT 'r', q.id FROM order_line l JOIN need_tie t ON t.order_line = l.id JOIN requisition_line q ON q.id = t.requisition_line
    WHERE l.purchase_order = new.id AND q.budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_asked AFTER UPDATE ON requisition_line WHEN new.budget IS NOT NULL OR old.budget IS NOT NULL BEGIN
  INSERT INTO budget_touch VALUES ('r', new.id) ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_new_asked AFTER INSERT ON requisition_line WHEN new.budget IS NOT NULL BEGIN
  INSERT INTO budget_touch VALUES ('r', new.id) ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_requisition AFTER UPDATE OF state, needed_by, submitted ON requisition BEGIN
  INSERT INTO budget_touch SELECT 'r', id FROM requisition_line WHERE requisition = new.id AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_tie AFTER INSERT ON need_tie WHEN new.requisition_line IS NOT NULL BEGIN
  INSERT INTO budget_touch SELECT 'r', id FROM requisition_line WHERE id = new.requisition_line AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_tie_changed AFTER UPDATE OF quantity ON need_tie WHEN new.requisition_line IS NOT NULL BEGIN
  INSERT INTO budget_touch SELECT 'r', id FROM requisition_line WHERE id = new.requisition_line AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE TRIGGER budget_touch_tie_gone AFTER DELETE ON need_tie WHEN old.requisition_line IS NOT NULL BEGIN
  INSERT INTO budget_touch SELECT 'r', id FROM requisition_line WHERE id = old.requisition_line AND budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
CREATE INDEX requisition_line_with_budget ON requisition_line (item) WHERE budget IS NOT NULL;
-- What an item usually costs is what is asked for where nobody told more.
CREATE TRIGGER budget_touch_item AFTER UPDATE OF reference_cost ON item BEGIN
  INSERT INTO budget_touch SELECT 'r', id FROM requisition_line WHERE item = new.id AND budget IS NOT NULL AND estimate IS NULL ON CONFLICT DO NOTHING;
END;

-- The tax of a line follows from its supplier, its item and what was typed, until the order is placed: then it is kept.
ALTER TABLE order_line ADD COLUMN tax_typed INTEGER NOT NULL DEFAULT 0 CHECK (tax_typed IN (0, 1));
ALTER TABLE purchase_order ADD COLUMN taxed INTEGER CHECK (taxed IN (0, 1)); -- null until it is placed: as the supplier's record says

UPDATE purchase_order SET taxed = (
  SELECT iif(EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = purchase_order.id AND l.tax_rate > 0), 1, s.taxed)
  FROM supplier s WHERE s.id = purchase_order.supplier) WHERE placed IS NOT NULL;
UPDATE order_line SET tax_typed = 1 WHERE id IN (
  SELECT l.id FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier LEFT JOIN item i ON i.id = l.item
  WHERE o.placed IS NULL AND s.taxed = 1 AND l.tax_rate <> coalesce(i.tax_rate, (SELECT tax_rate FROM company)));

-- Goods that are counted by the piece and weighed when they come: no two weigh the same.
ALTER TABLE item ADD COLUMN by_weight INTEGER NOT NULL DEFAULT 0 CHECK (by_weight IN (0, 1));
ALTER TABLE receipt_line ADD COLUMN weight INTEGER CHECK (weight > 0); -- kilograms as weighed, ten-thousandths

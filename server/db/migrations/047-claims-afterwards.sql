-- A claim can be made once its invoice matched, and belongs to goods that went back.
ALTER TABLE claim ADD COLUMN entry INTEGER REFERENCES posting_entry (id); -- by which it was booked; null: with its invoice
ALTER TABLE claim ADD COLUMN part_of INTEGER REFERENCES claim (id); -- it was parted from that one, when a part was credited
ALTER TABLE claim ADD COLUMN pieces INTEGER NOT NULL DEFAULT 0; -- of goods that came and turned out not good: so many purchase units
ALTER TABLE claim ADD COLUMN goods_return INTEGER REFERENCES goods_return (id); -- with which they went back
CREATE INDEX claim_of_return ON claim (goods_return) WHERE goods_return IS NOT NULL;
CREATE TRIGGER budget_touch_new_claim AFTER INSERT ON claim BEGIN
  INSERT INTO budget_touch SELECT 'o', d.id FROM invoice_line l JOIN order_line d ON d.id = l.order_line WHERE l.id = new.invoice_line AND d.budget IS NOT NULL ON CONFLICT DO NOTHING;
END;
